CREATE TABLE `advisors_before` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`advisor` int,
	`until_at` datetime(3) NOT NULL,
	`changed_by` int NOT NULL,
	`reason` varchar(300) NOT NULL,
	CONSTRAINT `advisors_before_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `caught_mails` (
	`id` varchar(120) NOT NULL,
	`sent_to` varchar(120) NOT NULL,
	`caught_at` datetime(3) NOT NULL,
	`raw` longtext NOT NULL,
	CONSTRAINT `caught_mails_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `deputies` (
	`id` int AUTO_INCREMENT NOT NULL,
	`advisor` int NOT NULL,
	`deputy` int NOT NULL,
	`from_date` date NOT NULL,
	`until_date` date NOT NULL,
	CONSTRAINT `deputies_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `exception_requests` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`term` varchar(6),
	`asked` longtext NOT NULL,
	`about` varchar(140) NOT NULL,
	`reason` varchar(300) NOT NULL,
	`asked_at` datetime(3) NOT NULL,
	`state` varchar(10) NOT NULL,
	`decided_by` int,
	`decided_at` datetime(3),
	`words` varchar(300) NOT NULL DEFAULT '',
	`waiting_about` varchar(140) GENERATED ALWAYS AS (if(state = 'asked', about, null)) STORED,
	CONSTRAINT `exception_requests_id` PRIMARY KEY(`id`),
	CONSTRAINT `exception_requests_once` UNIQUE(`student`,`waiting_about`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `file_looks` (
	`person` int NOT NULL,
	`student` int NOT NULL,
	`looked_at` datetime(3),
	`plan` int,
	`version` int,
	`finish` varchar(6),
	`comment_read` int NOT NULL DEFAULT 0,
	CONSTRAINT `file_looks_person_student_pk` PRIMARY KEY(`person`,`student`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `advising_meetings` (
	`id` int AUTO_INCREMENT NOT NULL,
	`advisor` int NOT NULL,
	`student` int NOT NULL,
	`start_at` datetime(3) NOT NULL,
	`minutes` int NOT NULL,
	`place` varchar(80) NOT NULL,
	`about` varchar(300) NOT NULL,
	`state` varchar(10) NOT NULL,
	`sequence` int NOT NULL DEFAULT 0,
	`slot` varchar(40) GENERATED ALWAYS AS (if(state = 'booked', concat(advisor, ' ', start_at), null)) STORED,
	CONSTRAINT `advising_meetings_id` PRIMARY KEY(`id`),
	CONSTRAINT `advising_meetings_slot` UNIQUE(`slot`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `notes` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`author` int NOT NULL,
	`written_at` datetime(3) NOT NULL,
	`text` varchar(2000) NOT NULL,
	`shared` boolean NOT NULL,
	`meeting` int,
	CONSTRAINT `notes_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `notice_wishes` (
	`person` int NOT NULL,
	`wish` varchar(10) NOT NULL,
	CONSTRAINT `notice_wishes_person` PRIMARY KEY(`person`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `notices` (
	`id` int AUTO_INCREMENT NOT NULL,
	`person` int NOT NULL,
	`student` int NOT NULL,
	`told_at` datetime(3) NOT NULL,
	`notice` longtext NOT NULL,
	`read_at` datetime(3),
	`mail` varchar(10) NOT NULL,
	`mail_at` datetime(3) NOT NULL,
	`tries` int NOT NULL DEFAULT 0,
	CONSTRAINT `notices_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `office_hours` (
	`id` int AUTO_INCREMENT NOT NULL,
	`advisor` int NOT NULL,
	`week_day` char(1) NOT NULL,
	`start_minute` int NOT NULL,
	`end_minute` int NOT NULL,
	`slot_minutes` int NOT NULL,
	`place` varchar(80) NOT NULL,
	CONSTRAINT `office_hours_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `presence` (
	`student` int NOT NULL,
	`person` int NOT NULL,
	`seen_at` datetime(3) NOT NULL,
	CONSTRAINT `presence_student_person_pk` PRIMARY KEY(`student`,`person`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
CREATE TABLE `suggestions` (
	`id` int AUTO_INCREMENT NOT NULL,
	`student` int NOT NULL,
	`plan` int NOT NULL,
	`sent_as` char(36) NOT NULL,
	`author` int NOT NULL,
	`suggested_at` datetime(3) NOT NULL,
	`why` varchar(500) NOT NULL,
	`operations` longtext NOT NULL,
	`state` varchar(10) NOT NULL,
	`decided_at` datetime(3),
	`words` varchar(300) NOT NULL DEFAULT '',
	CONSTRAINT `suggestions_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
ALTER TABLE `exceptions` DROP INDEX `exceptions_once`;--> statement-breakpoint
ALTER TABLE `exceptions` drop column `what`;--> statement-breakpoint
ALTER TABLE `institution` ADD `advising` longtext NOT NULL DEFAULT '{"changedAfter":"shown","releaseCode":"instead","releaseDays":14,"silentDays":21,"entitled":{"substitution":"advisor","waiver":"advisor","prerequisite":"advisor","load":"advisor","clash":"advisor","restriction":"either","seat":"office","late add":"either"}}';--> statement-breakpoint
ALTER TABLE `exceptions` ADD `section` int;--> statement-breakpoint
ALTER TABLE `exceptions` ADD `until_date` date;--> statement-breakpoint
ALTER TABLE `exceptions` ADD `what` varchar(140) GENERATED ALWAYS AS (concat_ws('|', kind, ifnull(course, ''), ifnull(term, ''), ifnull(program, ''), ifnull(line, ''), ifnull(section, ''),
      if(kind = 'clash', ifnull(instead, ''), ''))) STORED;--> statement-breakpoint
ALTER TABLE `exceptions` ADD CONSTRAINT `exceptions_once` UNIQUE(`student`,`what`);--> statement-breakpoint
ALTER TABLE `comments` ADD `resolved_at` datetime(3);--> statement-breakpoint
ALTER TABLE `comments` ADD `resolved_by` int;--> statement-breakpoint
ALTER TABLE `sign_off_requests` ADD `answers` longtext;--> statement-breakpoint
ALTER TABLE `sign_off_requests` ADD `returned` longtext;--> statement-breakpoint
ALTER TABLE `release_codes` ADD `valid_until` datetime(3) NOT NULL DEFAULT '2000-01-01';--> statement-breakpoint
ALTER TABLE `advisors_before` ADD CONSTRAINT `advisors_before_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `advisors_before` ADD CONSTRAINT `advisors_before_advisor_people_id_fk` FOREIGN KEY (`advisor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `advisors_before` ADD CONSTRAINT `advisors_before_changed_by_people_id_fk` FOREIGN KEY (`changed_by`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `deputies` ADD CONSTRAINT `deputies_advisor_people_id_fk` FOREIGN KEY (`advisor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `deputies` ADD CONSTRAINT `deputies_deputy_people_id_fk` FOREIGN KEY (`deputy`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `exception_requests` ADD CONSTRAINT `exception_requests_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `exception_requests` ADD CONSTRAINT `exception_requests_term_terms_code_fk` FOREIGN KEY (`term`) REFERENCES `terms`(`code`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `exception_requests` ADD CONSTRAINT `exception_requests_decided_by_people_id_fk` FOREIGN KEY (`decided_by`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `file_looks` ADD CONSTRAINT `file_looks_person_people_id_fk` FOREIGN KEY (`person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `file_looks` ADD CONSTRAINT `file_looks_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `advising_meetings` ADD CONSTRAINT `advising_meetings_advisor_people_id_fk` FOREIGN KEY (`advisor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `advising_meetings` ADD CONSTRAINT `advising_meetings_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `notes` ADD CONSTRAINT `notes_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `notes` ADD CONSTRAINT `notes_author_people_id_fk` FOREIGN KEY (`author`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `notice_wishes` ADD CONSTRAINT `notice_wishes_person_people_id_fk` FOREIGN KEY (`person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `notices` ADD CONSTRAINT `notices_person_people_id_fk` FOREIGN KEY (`person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `notices` ADD CONSTRAINT `notices_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `office_hours` ADD CONSTRAINT `office_hours_advisor_people_id_fk` FOREIGN KEY (`advisor`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `presence` ADD CONSTRAINT `presence_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `presence` ADD CONSTRAINT `presence_person_people_id_fk` FOREIGN KEY (`person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `suggestions` ADD CONSTRAINT `suggestions_student_students_person_fk` FOREIGN KEY (`student`) REFERENCES `students`(`person`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `suggestions` ADD CONSTRAINT `suggestions_plan_plans_id_fk` FOREIGN KEY (`plan`) REFERENCES `plans`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `suggestions` ADD CONSTRAINT `suggestions_author_people_id_fk` FOREIGN KEY (`author`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `advisors_before_student` ON `advisors_before` (`student`);--> statement-breakpoint
CREATE INDEX `caught_mails_to` ON `caught_mails` (`sent_to`);--> statement-breakpoint
CREATE INDEX `deputies_advisor` ON `deputies` (`advisor`,`until_date`);--> statement-breakpoint
CREATE INDEX `deputies_deputy` ON `deputies` (`deputy`,`until_date`);--> statement-breakpoint
CREATE INDEX `exception_requests_student` ON `exception_requests` (`student`);--> statement-breakpoint
CREATE INDEX `advising_meetings_student` ON `advising_meetings` (`student`);--> statement-breakpoint
CREATE INDEX `advising_meetings_advisor` ON `advising_meetings` (`advisor`,`start_at`);--> statement-breakpoint
CREATE INDEX `notes_student` ON `notes` (`student`);--> statement-breakpoint
CREATE INDEX `notices_person` ON `notices` (`person`,`read_at`);--> statement-breakpoint
CREATE INDEX `notices_mail` ON `notices` (`mail`,`mail_at`);--> statement-breakpoint
CREATE INDEX `office_hours_advisor` ON `office_hours` (`advisor`);--> statement-breakpoint
CREATE INDEX `suggestions_student` ON `suggestions` (`student`,`state`);--> statement-breakpoint
ALTER TABLE `comments` ADD CONSTRAINT `comments_resolved_by_people_id_fk` FOREIGN KEY (`resolved_by`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;