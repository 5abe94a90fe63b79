CREATE TABLE `write_marks` (
	`id` char(36) NOT NULL,
	`kept_at` datetime(3) NOT NULL,
	CONSTRAINT `write_marks_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE INDEX `write_marks_at` ON `write_marks` (`kept_at`);