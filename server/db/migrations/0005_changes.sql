CREATE TABLE `freed_seats` (
	`id` int AUTO_INCREMENT NOT NULL,
	`section` int NOT NULL,
	`pool` int NOT NULL,
	`freed_at` datetime(3) NOT NULL,
	CONSTRAINT `freed_seats_id` PRIMARY KEY(`id`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD `offer_pool` int;--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD `bundle` longtext DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD `grading` varchar(10) DEFAULT 'letter' NOT NULL;--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD `credits` int;--> statement-breakpoint
ALTER TABLE `freed_seats` ADD CONSTRAINT `freed_seats_section_sections_id_fk` FOREIGN KEY (`section`) REFERENCES `sections`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
ALTER TABLE `freed_seats` ADD CONSTRAINT `freed_seats_pool_seat_pools_id_fk` FOREIGN KEY (`pool`) REFERENCES `seat_pools`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `freed_seats_section` ON `freed_seats` (`section`);--> statement-breakpoint
ALTER TABLE `waitlist_entries` ADD CONSTRAINT `waitlist_entries_offer_pool_seat_pools_id_fk` FOREIGN KEY (`offer_pool`) REFERENCES `seat_pools`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `waitlist_offers` ON `waitlist_entries` (`offer_until`);--> statement-breakpoint
UPDATE `waitlist_entries` w SET w.`offer_pool` = (SELECT MIN(p.`id`) FROM `seat_pools` p JOIN `sections` s ON p.`section` = IFNULL(s.`seats_with`, s.`id`)
	WHERE s.`id` = w.`section` AND p.`held` > 0) WHERE w.`offer_until` IS NOT NULL;
