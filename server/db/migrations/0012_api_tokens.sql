CREATE TABLE `api_tokens` (
	`id` int AUTO_INCREMENT NOT NULL,
	`person` int NOT NULL,
	`name` varchar(60) NOT NULL,
	`token_hash` char(64) NOT NULL,
	`scope` varchar(5) NOT NULL,
	`made_at` datetime(3) NOT NULL,
	`valid_until` datetime(3) NOT NULL,
	`used_at` datetime(3),
	`mark` char(64) NOT NULL,
	CONSTRAINT `api_tokens_id` PRIMARY KEY(`id`),
	CONSTRAINT `api_tokens_token_hash_unique` UNIQUE(`token_hash`)
) DEFAULT CHARACTER SET utf8mb4 COLLATE utf8mb4_nopad_bin;
--> statement-breakpoint
ALTER TABLE `api_tokens` ADD CONSTRAINT `api_tokens_person_people_id_fk` FOREIGN KEY (`person`) REFERENCES `people`(`id`) ON DELETE no action ON UPDATE no action;--> statement-breakpoint
CREATE INDEX `api_tokens_person` ON `api_tokens` (`person`);