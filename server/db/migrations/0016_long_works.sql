CREATE TABLE `long_works` (
	`id` varchar(36) NOT NULL,
	`stage` varchar(60) NOT NULL,
	`done` int NOT NULL,
	`total` int NOT NULL,
	`cancelled` boolean NOT NULL DEFAULT false,
	`begun_at` datetime(3) NOT NULL,
	CONSTRAINT `long_works_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
