ALTER TABLE `sections` DROP FOREIGN KEY `sections_term_terms_code_fk`;--> statement-breakpoint
ALTER TABLE `sections` DROP FOREIGN KEY `sections_course_courses_code_fk`;--> statement-breakpoint
ALTER TABLE `openings` DROP FOREIGN KEY `openings_term_terms_code_fk`;--> statement-breakpoint
ALTER TABLE `site_travel` DROP FOREIGN KEY `site_travel_from_site_sites_code_fk`;--> statement-breakpoint
ALTER TABLE `site_travel` DROP FOREIGN KEY `site_travel_to_site_sites_code_fk`;--> statement-breakpoint
ALTER TABLE `term_sessions` DROP FOREIGN KEY `term_sessions_term_terms_code_fk`;--> statement-breakpoint
ALTER TABLE `records` DROP FOREIGN KEY `records_course_courses_code_fk`;--> statement-breakpoint
ALTER TABLE `plan_entries` DROP FOREIGN KEY `plan_entries_course_courses_code_fk`;--> statement-breakpoint
ALTER TABLE `plan_entries` DROP FOREIGN KEY `plan_entries_term_terms_code_fk`;--> statement-breakpoint
ALTER TABLE `sign_off_requests` DROP FOREIGN KEY `sign_off_requests_term_terms_code_fk`;--> statement-breakpoint
ALTER TABLE `sign_offs` DROP FOREIGN KEY `sign_offs_term_terms_code_fk`;--> statement-breakpoint
ALTER TABLE `line_up_rows` DROP FOREIGN KEY `line_up_rows_term_terms_code_fk`;--> statement-breakpoint
ALTER TABLE `line_up_rows` DROP FOREIGN KEY `line_up_rows_course_courses_code_fk`;--> statement-breakpoint
ALTER TABLE `terms_acceptances` DROP FOREIGN KEY `terms_acceptances_term_terms_code_fk`;--> statement-breakpoint
ALTER TABLE `courses` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `meetings` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `programs` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `seat_pools` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `sections` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `clock_setting` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `institution` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `openings` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `site_travel` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `sites` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `term_sessions` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `terms` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `exceptions` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `holds` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `people` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `records` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `student_programs` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `students` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `comments` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `plan_entries` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `plan_operations` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `plans` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `sign_off_requests` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `sign_offs` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `ledger` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `line_up_rows` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `registration_runs` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `registrations` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `terms_acceptances` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `waitlist_entries` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `milestones` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `program_requests` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `use_pins` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `sections` ADD CONSTRAINT `sections_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sections` ADD CONSTRAINT `sections_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `openings` ADD CONSTRAINT `openings_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `site_travel` ADD CONSTRAINT `site_travel_from_site_sites_code_fk` FOREIGN KEY (`from_site`) REFERENCES `sites`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `site_travel` ADD CONSTRAINT `site_travel_to_site_sites_code_fk` FOREIGN KEY (`to_site`) REFERENCES `sites`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `term_sessions` ADD CONSTRAINT `term_sessions_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `records` ADD CONSTRAINT `records_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plan_entries` ADD CONSTRAINT `plan_entries_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `plan_entries` ADD CONSTRAINT `plan_entries_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sign_off_requests` ADD CONSTRAINT `sign_off_requests_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `sign_offs` ADD CONSTRAINT `sign_offs_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD CONSTRAINT `line_up_rows_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `line_up_rows` ADD CONSTRAINT `line_up_rows_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `terms_acceptances` ADD CONSTRAINT `terms_acceptances_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE TABLE `college_stamp` (
	`id` int NOT NULL,
	`version` int NOT NULL,
	CONSTRAINT `college_stamp_id` PRIMARY KEY(`id`)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `sessions` (
	`id` char(64) NOT NULL,
	`person` int NOT NULL,
	`started_at` datetime(3) NOT NULL,
	`valid_until` datetime(3) NOT NULL,
	`mark` char(64) NOT NULL,
	CONSTRAINT `sessions_id` PRIMARY KEY(`id`)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `sign_in_tries` (
	`try_key` varchar(120) NOT NULL,
	`tries` int NOT NULL,
	`counted_until` datetime(3) NOT NULL,
	CONSTRAINT `sign_in_tries_try_key` PRIMARY KEY(`try_key`)
) CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
ALTER TABLE `seat_pools` ADD `section_version` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `terms` ADD `sections_version` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `exceptions` ADD `what` varchar(140) GENERATED ALWAYS AS (concat_ws('|', kind, ifnull(course, ''), ifnull(term, ''), ifnull(program, ''), ifnull(line, ''))) STORED;--> statement-breakpoint
UPDATE program_requests old JOIN program_requests newer ON newer.student = old.student AND newer.state = 'asked' AND newer.id > old.id SET old.state = 'taken back' WHERE old.state = 'asked';--> statement-breakpoint
ALTER TABLE `program_requests` ADD `waiting_of` int GENERATED ALWAYS AS (if(state = 'asked', student, null)) STORED;--> statement-breakpoint
ALTER TABLE `students` ADD `version` int DEFAULT 0 NOT NULL;--> statement-breakpoint
UPDATE plans other JOIN plans first ON first.student = other.student AND first.is_current AND first.deleted_at IS NULL AND first.id < other.id SET other.is_current = 0 WHERE other.is_current AND other.deleted_at IS NULL;--> statement-breakpoint
ALTER TABLE `plans` ADD `current_of` int GENERATED ALWAYS AS (if(is_current and deleted_at is null, student, null)) STORED;--> statement-breakpoint
ALTER TABLE `registration_runs` ADD `asked` varchar(300) NOT NULL;--> statement-breakpoint
DELETE later FROM exceptions later JOIN exceptions first ON first.student = later.student AND first.what = later.what AND first.id < later.id;--> statement-breakpoint
ALTER TABLE `exceptions` ADD CONSTRAINT `exceptions_once` UNIQUE(`student`,`what`);--> statement-breakpoint
ALTER TABLE `program_requests` ADD CONSTRAINT `program_requests_waiting` UNIQUE(`waiting_of`);--> statement-breakpoint
ALTER TABLE `plans` ADD CONSTRAINT `plans_current` UNIQUE(`current_of`);--> statement-breakpoint
ALTER TABLE `sessions` ADD CONSTRAINT `sessions_person_people_id_fk` FOREIGN KEY (`person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `sessions_person` ON `sessions` (`person`);--> statement-breakpoint
ALTER TABLE `meetings` ADD CONSTRAINT `meetings_site_sites_code_fk` FOREIGN KEY (`site`) REFERENCES `sites`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `exceptions` ADD CONSTRAINT `exceptions_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `exceptions` ADD CONSTRAINT `exceptions_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `exceptions` ADD CONSTRAINT `exceptions_instead_courses_code_fk` FOREIGN KEY (`instead`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `student_programs` ADD CONSTRAINT `student_programs_program_programs_id_fk` FOREIGN KEY (`program`) REFERENCES `programs`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `comments` ADD CONSTRAINT `comments_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `ledger` ADD CONSTRAINT `ledger_section_sections_id_fk` FOREIGN KEY (`section`) REFERENCES `sections`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `ledger` ADD CONSTRAINT `ledger_pool_seat_pools_id_fk` FOREIGN KEY (`pool`) REFERENCES `seat_pools`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `registration_runs` ADD CONSTRAINT `registration_runs_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `registrations` ADD CONSTRAINT `registrations_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `registrations` ADD CONSTRAINT `registrations_course_courses_code_fk` FOREIGN KEY (`course`) REFERENCES `courses`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
INSERT INTO `college_stamp` VALUES (1, 1);
