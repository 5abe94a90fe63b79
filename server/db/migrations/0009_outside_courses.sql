ALTER TABLE `exceptions` DROP FOREIGN KEY `exceptions_course_courses_code_fk`;
--> statement-breakpoint
ALTER TABLE `records` DROP FOREIGN KEY `records_course_courses_code_fk`;
--> statement-breakpoint
ALTER TABLE `records` ADD `topic` varchar(120);