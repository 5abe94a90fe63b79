CREATE TABLE `program_history` (
	`program` varchar(30) NOT NULL,
	`version` int NOT NULL,
	`body` longtext NOT NULL,
	`cases` longtext,
	`replaced_at` datetime(3) NOT NULL,
	`replaced_by` int NOT NULL,
	CONSTRAINT `program_history_program_version_pk` PRIMARY KEY(`program`,`version`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
ALTER TABLE `programs` ADD `cases` longtext;--> statement-breakpoint
ALTER TABLE `programs` ADD `version` int DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `program_history` ADD CONSTRAINT `program_history_program_programs_id_fk` FOREIGN KEY (`program`) REFERENCES `programs`(`id`) ON DELETE no action ON UPDATE no action;