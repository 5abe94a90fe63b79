CREATE TABLE `release_codes` (
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`code` char(64) NOT NULL,
	`advisor` int NOT NULL,
	`made_at` datetime(3) NOT NULL,
	`used_at` datetime(3),
	CONSTRAINT `release_codes_student_term_pk` PRIMARY KEY(`student`,`term`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `waitlist_past` (
	`id` int AUTO_INCREMENT NOT NULL,
	`term` varchar(6) NOT NULL,
	`course` varchar(10) NOT NULL,
	`place` int NOT NULL,
	`offered` boolean NOT NULL,
	CONSTRAINT `waitlist_past_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `crowd_presses` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`press_at` datetime(3) NOT NULL,
	`state` varchar(10) NOT NULL,
	`press_key` char(36) NOT NULL,
	`registered` int NOT NULL DEFAULT 0,
	CONSTRAINT `crowd_presses_id` PRIMARY KEY(`id`),
	CONSTRAINT `crowd_once` UNIQUE(`student`,`term`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `desk_orders` (
	`id` int AUTO_INCREMENT NOT NULL,
	`payment` char(36) NOT NULL,
	`accepted` boolean NOT NULL,
	`answer_at` datetime(3) NOT NULL,
	`answers` int NOT NULL,
	CONSTRAINT `desk_orders_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `money_entries` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`happened_at` datetime(3) NOT NULL,
	`happened_on` date NOT NULL,
	`actor` int,
	`kind` varchar(10) NOT NULL,
	`cents` int NOT NULL,
	`courses` longtext NOT NULL,
	`reference` varchar(40) NOT NULL,
	CONSTRAINT `money_entries_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `payment_choices` (
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`plan` varchar(20) NOT NULL,
	CONSTRAINT `payment_choices_student_term_pk` PRIMARY KEY(`student`,`term`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `payments` (
	`id` char(36) NOT NULL,
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`cents` int NOT NULL,
	`state` varchar(10) NOT NULL,
	`started_at` datetime(3) NOT NULL,
	`settled_at` datetime(3),
	CONSTRAINT `payments_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
ALTER TABLE `ledger` MODIFY COLUMN `actor` int;--> statement-breakpoint
ALTER TABLE `institution` ADD `money` longtext DEFAULT '{}' NOT NULL;--> statement-breakpoint
UPDATE `institution` SET `money` = JSON_OBJECT('bands', JSON_ARRAY(JSON_OBJECT('code', 'resident', 'name', 'Resident', 'perCredit', `credit_price`)),
	'siteFees', JSON_OBJECT(), 'refunds', JSON_ARRAY(), 'plans', JSON_ARRAY(JSON_OBJECT('code', 'whole', 'name', 'All at once',
	'parts', JSON_ARRAY(JSON_OBJECT('days', 0, 'percent', 100)))), 'lateDays', 7, 'graceDays', 3);--> statement-breakpoint
ALTER TABLE `institution` ALTER COLUMN `money` DROP DEFAULT;--> statement-breakpoint
ALTER TABLE `term_sessions` ADD `deadlines` longtext;--> statement-breakpoint
ALTER TABLE `terms` ADD `closed_because` varchar(300);--> statement-breakpoint
ALTER TABLE `holds` ADD `placed_by` varchar(20) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `students` ADD `residence` varchar(20) DEFAULT 'resident' NOT NULL;--> statement-breakpoint
ALTER TABLE `registrations` ADD `tuition` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `registrations` ADD `fees` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `registrations` ADD `graded` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD `exchange_for` longtext;--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD `joined_as` int DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `release_codes` ADD CONSTRAINT `release_codes_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `release_codes` ADD CONSTRAINT `release_codes_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `release_codes` ADD CONSTRAINT `release_codes_advisor_people_id_fk` FOREIGN KEY (`advisor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `waitlist_past` ADD CONSTRAINT `waitlist_past_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `waitlist_past` ADD CONSTRAINT `waitlist_past_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `crowd_presses` ADD CONSTRAINT `crowd_presses_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `crowd_presses` ADD CONSTRAINT `crowd_presses_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `desk_orders` ADD CONSTRAINT `desk_orders_payment_payments_id_fk` FOREIGN KEY (`payment`) REFERENCES `payments`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `money_entries` ADD CONSTRAINT `money_entries_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `money_entries` ADD CONSTRAINT `money_entries_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `money_entries` ADD CONSTRAINT `money_entries_actor_people_id_fk` FOREIGN KEY (`actor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `payment_choices` ADD CONSTRAINT `payment_choices_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `payment_choices` ADD CONSTRAINT `payment_choices_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `payments` ADD CONSTRAINT `payments_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `payments` ADD CONSTRAINT `payments_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `waitlist_past_course` ON `waitlist_past` (`course`);--> statement-breakpoint
CREATE INDEX `crowd_due` ON `crowd_presses` (`state`,`press_at`);--> statement-breakpoint
CREATE INDEX `desk_orders_due` ON `desk_orders` (`answers`,`answer_at`);--> statement-breakpoint
CREATE INDEX `money_student` ON `money_entries` (`student`,`term`);--> statement-breakpoint
CREATE INDEX `payments_student` ON `payments` (`student`,`term`);--> statement-breakpoint
ALTER TABLE `institution` DROP COLUMN `credit_price`;