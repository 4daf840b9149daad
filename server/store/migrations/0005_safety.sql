CREATE TABLE `installation` (
	`id` int NOT NULL,
	`demo` boolean NOT NULL,
	CONSTRAINT `installation_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `password_links` (
	`token_hash` varchar(64) NOT NULL,
	`user_id` uuid NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`expires_at` datetime(3) NOT NULL,
	CONSTRAINT `password_links_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `sign_ins` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`at` datetime(3) NOT NULL,
	`account` binary(16) NOT NULL,
	`address` varchar(45) NOT NULL,
	`user_id` uuid,
	`succeeded` boolean NOT NULL,
	CONSTRAINT `sign_ins_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
ALTER TABLE `intakes` MODIFY COLUMN `key` varchar(80) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `learned_lines` MODIFY COLUMN `entity` varchar(100) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `learned_lines` MODIFY COLUMN `field` varchar(100) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `ledger` MODIFY COLUMN `effect` varchar(600) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `ledger` MODIFY COLUMN `entity` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `ledger` MODIFY COLUMN `record_id` varchar(255) COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `submissions` MODIFY COLUMN `idempotency_key` varchar(200) COLLATE utf8mb4_nopad_bin;--> statement-breakpoint
ALTER TABLE `users` MODIFY COLUMN `email` varchar(254) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `decided_pairs` MODIFY COLUMN `a` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `decided_pairs` MODIFY COLUMN `b` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `known_records` MODIFY COLUMN `record_id` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `recognitions` MODIFY COLUMN `entity` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL;--> statement-breakpoint
ALTER TABLE `files` ADD `removed_at` datetime(3);--> statement-breakpoint
ALTER TABLE `intakes` ADD `signed` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `submissions` ADD `fingerprint` binary(16);--> statement-breakpoint
ALTER TABLE `submissions` ADD `claim` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `submissions` ADD `begun` int DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `submissions` ADD `begun_at` datetime(3);--> statement-breakpoint
ALTER TABLE `submissions` ADD `begun_alone` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `submissions` ADD `lingered` boolean DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `systems` ADD `revision` int DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `users` ADD `password_set_at` datetime(3);--> statement-breakpoint
CREATE INDEX `sign_ins_account` ON `sign_ins` (`account`,`at`);--> statement-breakpoint
CREATE INDEX `sign_ins_address` ON `sign_ins` (`address`,`at`);--> statement-breakpoint
CREATE INDEX `sign_ins_time` ON `sign_ins` (`at`);--> statement-breakpoint
CREATE INDEX `submissions_forget` ON `submissions` (`intake_id`,`forgotten_at`,`settled_at`);--> statement-breakpoint
UPDATE `users` SET `email` = LOWER(`email`);--> statement-breakpoint
UPDATE `intakes` SET `signed` = TRUE WHERE `id` IN (SELECT `intake_id` FROM `intake_secrets`);
