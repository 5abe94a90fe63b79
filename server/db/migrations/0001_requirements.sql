CREATE TABLE `milestones` (
	`student` int NOT NULL,
	`program` varchar(20) NOT NULL,
	`milestone` varchar(60) NOT NULL,
	`recorded_by` int NOT NULL,
	`recorded_at` datetime(3) NOT NULL,
	CONSTRAINT `milestones_student_program_milestone_pk` PRIMARY KEY(`student`,`program`,`milestone`)
);
--> statement-breakpoint
CREATE TABLE `program_requests` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`programs` longtext NOT NULL,
	`note` varchar(500) NOT NULL,
	`asked_at` datetime(3) NOT NULL,
	`state` varchar(10) NOT NULL,
	`decided_by` int,
	`decided_at` datetime(3),
	`words` varchar(500) NOT NULL,
	CONSTRAINT `program_requests_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `use_pins` (
	`student` int NOT NULL,
	`item` varchar(40) NOT NULL,
	`program` varchar(20) NOT NULL,
	`line` varchar(60) NOT NULL,
	CONSTRAINT `use_pins_student_item_program_pk` PRIMARY KEY(`student`,`item`,`program`)
);
--> statement-breakpoint
ALTER TABLE `ledger` MODIFY COLUMN `student` int;--> statement-breakpoint
ALTER TABLE `ledger` MODIFY COLUMN `action` varchar(30) NOT NULL;--> statement-breakpoint
ALTER TABLE `exceptions` ADD `program` varchar(20);--> statement-breakpoint
ALTER TABLE `exceptions` ADD `line` varchar(60);--> statement-breakpoint
ALTER TABLE `exceptions` ADD `instead` varchar(10);--> statement-breakpoint
ALTER TABLE `milestones` ADD CONSTRAINT `milestones_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `milestones` ADD CONSTRAINT `milestones_recorded_by_people_id_fk` FOREIGN KEY (`recorded_by`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `program_requests` ADD CONSTRAINT `program_requests_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `program_requests` ADD CONSTRAINT `program_requests_decided_by_people_id_fk` FOREIGN KEY (`decided_by`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `use_pins` ADD CONSTRAINT `use_pins_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `program_requests_student` ON `program_requests` (`student`);