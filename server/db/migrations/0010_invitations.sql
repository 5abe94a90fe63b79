CREATE TABLE `invitations` (
	`id` char(64) NOT NULL,
	`person` int NOT NULL,
	`valid_until` datetime(3) NOT NULL,
	CONSTRAINT `invitations_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
ALTER TABLE `invitations` ADD CONSTRAINT `invitations_person_people_id_fk` FOREIGN KEY (`person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `invitations_person` ON `invitations` (`person`);