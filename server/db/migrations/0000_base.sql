CREATE TABLE `courses` (
	`code` varchar(10) NOT NULL,
	`subject` varchar(4) NOT NULL,
	`number` int NOT NULL,
	`title` varchar(120) NOT NULL,
	`credits` int NOT NULL,
	`credits_max` int NOT NULL,
	`description` varchar(1000) NOT NULL,
	`attributes` longtext NOT NULL,
	`prerequisite` varchar(500) NOT NULL,
	`corequisite` varchar(300) NOT NULL,
	`exclusions` longtext NOT NULL,
	`equivalents` longtext NOT NULL,
	`repeat_limit` int NOT NULL,
	`offered` longtext NOT NULL,
	`parts` longtext NOT NULL,
	`fee` int NOT NULL,
	CONSTRAINT `courses_code` PRIMARY KEY(`code`)
);
--> statement-breakpoint
CREATE TABLE `meetings` (
	`id` int AUTO_INCREMENT NOT NULL,
	`section` int NOT NULL,
	`days` longtext NOT NULL,
	`start_minute` int NOT NULL,
	`end_minute` int NOT NULL,
	`first_date` varchar(10) NOT NULL,
	`last_date` varchar(10) NOT NULL,
	`site` varchar(20) NOT NULL,
	`room` varchar(40) NOT NULL,
	CONSTRAINT `meetings_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `programs` (
	`id` varchar(30) NOT NULL,
	`code` varchar(20) NOT NULL,
	`catalog_year` int NOT NULL,
	`body` longtext NOT NULL,
	CONSTRAINT `programs_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `seat_pools` (
	`id` int NOT NULL,
	`section` int NOT NULL,
	`for_group` varchar(20),
	`capacity` int NOT NULL,
	`taken` int NOT NULL,
	`held` int NOT NULL,
	CONSTRAINT `seat_pools_id` PRIMARY KEY(`id`),
	CONSTRAINT `seats_within_capacity` CHECK(`seat_pools`.`taken` >= 0 AND `seat_pools`.`held` >= 0 AND `seat_pools`.`taken` + `seat_pools`.`held` <= `seat_pools`.`capacity`)
);
--> statement-breakpoint
CREATE TABLE `sections` (
	`id` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`session` varchar(10) NOT NULL,
	`course` varchar(10) NOT NULL,
	`number` varchar(5) NOT NULL,
	`label` varchar(6) NOT NULL,
	`part` varchar(10) NOT NULL,
	`link` varchar(6) NOT NULL,
	`exam` longtext,
	`instructors` longtext NOT NULL,
	`waitlist_capacity` int NOT NULL,
	`delivery` varchar(20) NOT NULL,
	`notes` varchar(300) NOT NULL,
	`only_programs` longtext NOT NULL,
	`cancelled` boolean NOT NULL,
	CONSTRAINT `sections_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `clock_setting` (
	`id` int NOT NULL,
	`demo_now` datetime(3),
	`set_at` datetime(3) NOT NULL,
	CONSTRAINT `clock_setting_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `institution` (
	`id` int NOT NULL,
	`name` varchar(120) NOT NULL,
	`zone` varchar(60) NOT NULL,
	`grade_scale` longtext NOT NULL,
	`repeat_policy` varchar(10) NOT NULL,
	`credit_price` int NOT NULL,
	`terms_text` varchar(2000) NOT NULL,
	CONSTRAINT `institution_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `openings` (
	`id` int AUTO_INCREMENT NOT NULL,
	`term` varchar(6) NOT NULL,
	`opens_at` datetime(3) NOT NULL,
	`program` varchar(20),
	`earned_min` int NOT NULL,
	`words` varchar(200) NOT NULL,
	CONSTRAINT `openings_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `site_travel` (
	`from_site` varchar(20) NOT NULL,
	`to_site` varchar(20) NOT NULL,
	`minutes` int NOT NULL,
	CONSTRAINT `site_travel_from_site_to_site_pk` PRIMARY KEY(`from_site`,`to_site`)
);
--> statement-breakpoint
CREATE TABLE `sites` (
	`code` varchar(20) NOT NULL,
	`name` varchar(80) NOT NULL,
	`online` boolean NOT NULL,
	CONSTRAINT `sites_code` PRIMARY KEY(`code`)
);
--> statement-breakpoint
CREATE TABLE `term_sessions` (
	`term` varchar(6) NOT NULL,
	`code` varchar(10) NOT NULL,
	`name` varchar(40) NOT NULL,
	`start` date NOT NULL,
	`end` date NOT NULL,
	CONSTRAINT `term_sessions_term_code_pk` PRIMARY KEY(`term`,`code`)
);
--> statement-breakpoint
CREATE TABLE `terms` (
	`code` varchar(6) NOT NULL,
	`name` varchar(40) NOT NULL,
	`season` varchar(6) NOT NULL,
	`year` int NOT NULL,
	`start` date NOT NULL,
	`end` date NOT NULL,
	`no_class` longtext NOT NULL,
	`moved_days` longtext NOT NULL,
	`load_cap` int NOT NULL,
	`full_time` int NOT NULL,
	`add_by` date NOT NULL,
	`drop_by` date NOT NULL,
	`withdraw_by` date NOT NULL,
	`fees_due` date NOT NULL,
	`scheduled` boolean NOT NULL,
	CONSTRAINT `terms_code` PRIMARY KEY(`code`)
);
--> statement-breakpoint
CREATE TABLE `exceptions` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`kind` varchar(20) NOT NULL,
	`course` varchar(10),
	`term` varchar(6),
	`value` int,
	`reason` varchar(300) NOT NULL,
	`granted_by` int NOT NULL,
	`granted_at` datetime(3) NOT NULL,
	CONSTRAINT `exceptions_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `holds` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`reason` varchar(200) NOT NULL,
	`contact` varchar(120) NOT NULL,
	`placed_at` datetime(3) NOT NULL,
	`cleared_at` datetime(3),
	CONSTRAINT `holds_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `people` (
	`id` int NOT NULL,
	`username` varchar(40) NOT NULL,
	`name` varchar(80) NOT NULL,
	`email` varchar(120) NOT NULL,
	`role` varchar(10) NOT NULL,
	`password_hash` varchar(200),
	`story` varchar(300) NOT NULL,
	CONSTRAINT `people_id` PRIMARY KEY(`id`),
	CONSTRAINT `people_username_unique` UNIQUE(`username`)
);
--> statement-breakpoint
CREATE TABLE `records` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`course` varchar(10) NOT NULL,
	`term` varchar(6),
	`credits` int NOT NULL,
	`grade` varchar(3),
	`state` varchar(12) NOT NULL,
	`source` varchar(10) NOT NULL,
	CONSTRAINT `records_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `student_programs` (
	`student` int NOT NULL,
	`program` varchar(30) NOT NULL,
	`position` int NOT NULL,
	CONSTRAINT `student_programs_student_program_pk` PRIMARY KEY(`student`,`program`)
);
--> statement-breakpoint
CREATE TABLE `students` (
	`person` int NOT NULL,
	`advisor` int,
	`program_confirmed` boolean NOT NULL,
	`placements` longtext NOT NULL,
	`target_load` int,
	CONSTRAINT `students_person` PRIMARY KEY(`person`)
);
--> statement-breakpoint
CREATE TABLE `comments` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`author` int NOT NULL,
	`written_at` datetime(3) NOT NULL,
	`term` varchar(6),
	`entry` varchar(40),
	`text` varchar(1000) NOT NULL,
	CONSTRAINT `comments_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `plan_entries` (
	`plan` int NOT NULL,
	`id` varchar(40) NOT NULL,
	`course` varchar(10) NOT NULL,
	`term` varchar(6) NOT NULL,
	`credits` int NOT NULL,
	`pinned` boolean NOT NULL,
	`pinned_use` varchar(80),
	`note` varchar(500) NOT NULL,
	CONSTRAINT `plan_entries_plan_id_pk` PRIMARY KEY(`plan`,`id`),
	CONSTRAINT `plan_course_term` UNIQUE(`plan`,`course`,`term`)
);
--> statement-breakpoint
CREATE TABLE `plan_operations` (
	`plan` int NOT NULL,
	`version` int NOT NULL,
	`by_person` int NOT NULL,
	`done_at` datetime(3) NOT NULL,
	`operation` longtext NOT NULL,
	CONSTRAINT `plan_operations_plan_version_pk` PRIMARY KEY(`plan`,`version`)
);
--> statement-breakpoint
CREATE TABLE `plans` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`name` varchar(60) NOT NULL,
	`is_current` boolean NOT NULL,
	`version` int NOT NULL,
	CONSTRAINT `plans_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `sign_off_requests` (
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`asked_at` datetime(3) NOT NULL,
	`note` varchar(500) NOT NULL,
	CONSTRAINT `sign_off_requests_student_term_pk` PRIMARY KEY(`student`,`term`)
);
--> statement-breakpoint
CREATE TABLE `sign_offs` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`advisor` int NOT NULL,
	`signed_at` datetime(3) NOT NULL,
	`note` varchar(500) NOT NULL,
	`copy` longtext NOT NULL,
	CONSTRAINT `sign_offs_id` PRIMARY KEY(`id`),
	CONSTRAINT `sign_offs_student_term` UNIQUE(`student`,`term`)
);
--> statement-breakpoint
CREATE TABLE `ledger` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`happened_at` datetime(3) NOT NULL,
	`actor` int NOT NULL,
	`student` int NOT NULL,
	`action` varchar(20) NOT NULL,
	`section` int,
	`pool` int,
	`run` varchar(40),
	`detail` longtext NOT NULL,
	CONSTRAINT `ledger_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `line_up_rows` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`course` varchar(10) NOT NULL,
	`position` int NOT NULL,
	`section_ids` longtext NOT NULL,
	CONSTRAINT `line_up_rows_id` PRIMARY KEY(`id`),
	CONSTRAINT `line_up_course` UNIQUE(`student`,`term`,`course`)
);
--> statement-breakpoint
CREATE TABLE `registration_runs` (
	`student` int NOT NULL,
	`run_key` varchar(40) NOT NULL,
	`term` varchar(6) NOT NULL,
	`run_at` datetime(3) NOT NULL,
	`result` longtext NOT NULL,
	CONSTRAINT `registration_runs_student_run_key_pk` PRIMARY KEY(`student`,`run_key`)
);
--> statement-breakpoint
CREATE TABLE `registrations` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`section` int NOT NULL,
	`pool` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`course` varchar(10) NOT NULL,
	`credits` int NOT NULL,
	`run` varchar(40) NOT NULL,
	`registered_at` datetime(3) NOT NULL,
	CONSTRAINT `registrations_id` PRIMARY KEY(`id`),
	CONSTRAINT `registrations_once` UNIQUE(`student`,`section`)
);
--> statement-breakpoint
CREATE TABLE `terms_acceptances` (
	`student` int NOT NULL,
	`term` varchar(6) NOT NULL,
	`accepted_at` datetime(3) NOT NULL,
	CONSTRAINT `terms_acceptances_student_term_pk` PRIMARY KEY(`student`,`term`)
);
--> statement-breakpoint
CREATE TABLE `waitlist_entries` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`section` int NOT NULL,
	`joined_at` datetime(3) NOT NULL,
	`offer_until` datetime(3),
	CONSTRAINT `waitlist_entries_id` PRIMARY KEY(`id`),
	CONSTRAINT `waitlist_once` UNIQUE(`student`,`section`)
);
--> statement-breakpoint
ALTER TABLE `meetings` ADD CONSTRAINT `meetings_section_sections_id_fk` FOREIGN KEY (`section`) REFERENCES `sections`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `seat_pools` ADD CONSTRAINT `seat_pools_section_sections_id_fk` FOREIGN KEY (`section`) REFERENCES `sections`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sections` ADD CONSTRAINT `sections_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sections` ADD CONSTRAINT `sections_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `openings` ADD CONSTRAINT `openings_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `site_travel` ADD CONSTRAINT `site_travel_from_site_sites_code_fk` FOREIGN KEY (`from_site`) REFERENCES `sites`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `site_travel` ADD CONSTRAINT `site_travel_to_site_sites_code_fk` FOREIGN KEY (`to_site`) REFERENCES `sites`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `term_sessions` ADD CONSTRAINT `term_sessions_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `exceptions` ADD CONSTRAINT `exceptions_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `exceptions` ADD CONSTRAINT `exceptions_granted_by_people_id_fk` FOREIGN KEY (`granted_by`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `holds` ADD CONSTRAINT `holds_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `records` ADD CONSTRAINT `records_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `records` ADD CONSTRAINT `records_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `student_programs` ADD CONSTRAINT `student_programs_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `students` ADD CONSTRAINT `students_person_people_id_fk` FOREIGN KEY (`person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `students` ADD CONSTRAINT `students_advisor_people_id_fk` FOREIGN KEY (`advisor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `comments` ADD CONSTRAINT `comments_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `comments` ADD CONSTRAINT `comments_author_people_id_fk` FOREIGN KEY (`author`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plan_entries` ADD CONSTRAINT `plan_entries_plan_plans_id_fk` FOREIGN KEY (`plan`) REFERENCES `plans`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plan_entries` ADD CONSTRAINT `plan_entries_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plan_entries` ADD CONSTRAINT `plan_entries_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plan_operations` ADD CONSTRAINT `plan_operations_plan_plans_id_fk` FOREIGN KEY (`plan`) REFERENCES `plans`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plan_operations` ADD CONSTRAINT `plan_operations_by_person_people_id_fk` FOREIGN KEY (`by_person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plans` ADD CONSTRAINT `plans_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sign_off_requests` ADD CONSTRAINT `sign_off_requests_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sign_off_requests` ADD CONSTRAINT `sign_off_requests_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sign_offs` ADD CONSTRAINT `sign_offs_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sign_offs` ADD CONSTRAINT `sign_offs_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sign_offs` ADD CONSTRAINT `sign_offs_advisor_people_id_fk` FOREIGN KEY (`advisor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `ledger` ADD CONSTRAINT `ledger_actor_people_id_fk` FOREIGN KEY (`actor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `ledger` ADD CONSTRAINT `ledger_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD CONSTRAINT `line_up_rows_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD CONSTRAINT `line_up_rows_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD CONSTRAINT `line_up_rows_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `registration_runs` ADD CONSTRAINT `registration_runs_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `registrations` ADD CONSTRAINT `registrations_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `registrations` ADD CONSTRAINT `registrations_section_sections_id_fk` FOREIGN KEY (`section`) REFERENCES `sections`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `registrations` ADD CONSTRAINT `registrations_pool_seat_pools_id_fk` FOREIGN KEY (`pool`) REFERENCES `seat_pools`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `terms_acceptances` ADD CONSTRAINT `terms_acceptances_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `terms_acceptances` ADD CONSTRAINT `terms_acceptances_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD CONSTRAINT `waitlist_entries_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD CONSTRAINT `waitlist_entries_section_sections_id_fk` FOREIGN KEY (`section`) REFERENCES `sections`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `courses_subject` ON `courses` (`subject`,`number`);--> statement-breakpoint
CREATE INDEX `meetings_section` ON `meetings` (`section`);--> statement-breakpoint
CREATE INDEX `seat_pools_section` ON `seat_pools` (`section`);--> statement-breakpoint
CREATE INDEX `sections_term_course` ON `sections` (`term`,`course`);--> statement-breakpoint
CREATE INDEX `exceptions_student` ON `exceptions` (`student`);--> statement-breakpoint
CREATE INDEX `holds_student` ON `holds` (`student`);--> statement-breakpoint
CREATE INDEX `records_student` ON `records` (`student`);--> statement-breakpoint
CREATE INDEX `students_advisor` ON `students` (`advisor`);--> statement-breakpoint
CREATE INDEX `comments_student` ON `comments` (`student`);--> statement-breakpoint
CREATE INDEX `plans_student` ON `plans` (`student`);--> statement-breakpoint
CREATE INDEX `ledger_student` ON `ledger` (`student`,`id`);--> statement-breakpoint
CREATE INDEX `ledger_section` ON `ledger` (`section`);--> statement-breakpoint
CREATE INDEX `registrations_section` ON `registrations` (`section`);--> statement-breakpoint
CREATE INDEX `registrations_term` ON `registrations` (`student`,`term`);--> statement-breakpoint
CREATE INDEX `waitlist_section` ON `waitlist_entries` (`section`,`joined_at`);