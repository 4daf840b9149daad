CREATE TABLE `search_state` (
	`id` int NOT NULL,
	`seq` bigint NOT NULL,
	CONSTRAINT `search_state_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `search_words` (
	`word` varchar(40) NOT NULL,
	`seq` bigint NOT NULL,
	CONSTRAINT `search_words_word_seq_pk` PRIMARY KEY(`word`,`seq`)
);
--> statement-breakpoint
DROP INDEX `submissions_due` ON `submissions`;--> statement-breakpoint
ALTER TABLE `ledger` ADD `intake_id` varchar(36);--> statement-breakpoint
ALTER TABLE `submissions` ADD `amended` json;--> statement-breakpoint
ALTER TABLE `submissions` ADD `forgotten_at` datetime(3);--> statement-breakpoint
CREATE INDEX `search_words_seq` ON `search_words` (`seq`);--> statement-breakpoint
CREATE INDEX `ledger_record_id` ON `ledger` (`record_id`);--> statement-breakpoint
CREATE INDEX `ledger_intake` ON `ledger` (`intake_id`);--> statement-breakpoint
CREATE INDEX `ledger_time` ON `ledger` (`intended_at`);--> statement-breakpoint
CREATE INDEX `submissions_settled` ON `submissions` (`settled_at`);--> statement-breakpoint
CREATE INDEX `submissions_due` ON `submissions` (`state`,`blocked`,`intake_id`,`due_at`);--> statement-breakpoint
UPDATE `ledger` l INNER JOIN `submissions` s ON s.`seq` = l.`submission_seq` SET l.`intake_id` = s.`intake_id`;
