ALTER TABLE `courses` MODIFY COLUMN `subject` varchar(5) NOT NULL;--> statement-breakpoint
ALTER TABLE `courses` ADD `repeat_credits` int;--> statement-breakpoint
ALTER TABLE `records` ADD `earned_grade` varchar(3);