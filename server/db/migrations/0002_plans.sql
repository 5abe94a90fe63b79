ALTER TABLE `plan_operations` ADD `batch` varchar(36);--> statement-breakpoint
ALTER TABLE `plans` ADD `details` longtext NOT NULL;--> statement-breakpoint
UPDATE `plans` SET `details` = '{"placeholders":[],"wishes":{"target":null,"termsOff":[],"latestFinish":null},"note":"","termNotes":{}}';--> statement-breakpoint
ALTER TABLE `plans` ADD `deleted_at` datetime(3);--> statement-breakpoint
CREATE INDEX `plan_operations_batch` ON `plan_operations` (`plan`,`batch`);