CREATE TABLE `calendar_feeds` (
	`student` int NOT NULL,
	`secret` char(64) NOT NULL,
	`made_at` datetime(3) NOT NULL,
	CONSTRAINT `calendar_feeds_student` PRIMARY KEY(`student`),
	CONSTRAINT `calendar_feeds_secret_unique` UNIQUE(`secret`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `kept_searches` (
	`student` int NOT NULL,
	`name` varchar(60) NOT NULL,
	`search` longtext NOT NULL,
	CONSTRAINT `kept_searches_student_name_pk` PRIMARY KEY(`student`,`name`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `shared_weeks` (
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`shared_at` datetime(3) NOT NULL,
	`choices` longtext NOT NULL,
	`note` varchar(500) NOT NULL,
	CONSTRAINT `shared_weeks_student_term_pk` PRIMARY KEY(`student`,`term`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `shortlist` (
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`course` varchar(10) NOT NULL,
	`bundle` varchar(60) NOT NULL,
	CONSTRAINT `shortlist_student_term_bundle_pk` PRIMARY KEY(`student`,`term`,`bundle`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `week_wishes` (
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`wishes` longtext NOT NULL,
	CONSTRAINT `week_wishes_student_term_pk` PRIMARY KEY(`student`,`term`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
ALTER TABLE `sections` ADD `topic` varchar(120) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `sections` ADD `fee` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `sections` ADD `grading_modes` longtext DEFAULT '["letter"]' NOT NULL;--> statement-breakpoint
ALTER TABLE `sections` ADD `taken_together` varchar(20) DEFAULT '' NOT NULL;--> statement-breakpoint
ALTER TABLE `sections` ADD `seats_with` int;--> statement-breakpoint
ALTER TABLE `sections` ADD `only_standings` longtext DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `sections` ADD `only_cohorts` longtext DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `students` ADD `cohorts` longtext DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD `backups` longtext DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD `wait_if_full` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD `grading` varchar(10) DEFAULT 'letter' NOT NULL;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD `credits` int;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD `seen` longtext;--> statement-breakpoint
ALTER TABLE `registrations` ADD `grading` varchar(10) DEFAULT 'letter' NOT NULL;--> statement-breakpoint
ALTER TABLE `calendar_feeds` ADD CONSTRAINT `calendar_feeds_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `kept_searches` ADD CONSTRAINT `kept_searches_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `shared_weeks` ADD CONSTRAINT `shared_weeks_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `shared_weeks` ADD CONSTRAINT `shared_weeks_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `shortlist` ADD CONSTRAINT `shortlist_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `shortlist` ADD CONSTRAINT `shortlist_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `shortlist` ADD CONSTRAINT `shortlist_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `week_wishes` ADD CONSTRAINT `week_wishes_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `week_wishes` ADD CONSTRAINT `week_wishes_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;