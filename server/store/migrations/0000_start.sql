CREATE TABLE `changes` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`at` datetime(3) NOT NULL,
	`user_id` uuid,
	`user_name` varchar(120) NOT NULL,
	`what` varchar(200) NOT NULL,
	`subject` varchar(200) NOT NULL,
	`details` mediumtext,
	CONSTRAINT `changes_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `intake_versions` (
	`intake_id` uuid NOT NULL,
	`number` int NOT NULL,
	`document` json NOT NULL,
	`accepted` json NOT NULL,
	`published_at` datetime(3) NOT NULL,
	`published_by` uuid,
	CONSTRAINT `intake_versions_intake_id_number_pk` PRIMARY KEY(`intake_id`,`number`)
);
--> statement-breakpoint
CREATE TABLE `intakes` (
	`id` uuid NOT NULL,
	`key` varchar(80) NOT NULL,
	`state` varchar(10) NOT NULL,
	`draft` json NOT NULL,
	`revision` int NOT NULL,
	`live_version` int,
	`created_at` datetime(3) NOT NULL,
	`changed_at` datetime(3) NOT NULL,
	CONSTRAINT `intakes_id` PRIMARY KEY(`id`),
	CONSTRAINT `intakes_key_unique` UNIQUE(`key`)
);
--> statement-breakpoint
CREATE TABLE `lane_holders` (
	`lane` binary(16) NOT NULL,
	`seq` bigint NOT NULL,
	CONSTRAINT `lane_holders_lane` PRIMARY KEY(`lane`)
);
--> statement-breakpoint
CREATE TABLE `lanes` (
	`lane` binary(16) NOT NULL,
	`seq` bigint NOT NULL,
	CONSTRAINT `lanes_lane_seq_pk` PRIMARY KEY(`lane`,`seq`)
);
--> statement-breakpoint
CREATE TABLE `ledger` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`submission_seq` bigint NOT NULL,
	`effect` varchar(100) NOT NULL,
	`attempt` int NOT NULL,
	`system_id` varchar(36) NOT NULL,
	`entity` varchar(255) NOT NULL,
	`record_id` varchar(255),
	`action` varchar(10) NOT NULL,
	`before_values` json NOT NULL,
	`after_values` json NOT NULL,
	`etag_before` varchar(200),
	`etag_after` varchar(200),
	`request_id` uuid NOT NULL,
	`state` varchar(10) NOT NULL,
	`refusal` json,
	`intended_at` datetime(3) NOT NULL,
	`settled_at` datetime(3),
	`actor` varchar(120) NOT NULL,
	`undoes` bigint,
	`undone_by` bigint,
	CONSTRAINT `ledger_id` PRIMARY KEY(`id`),
	CONSTRAINT `ledger_effect` UNIQUE(`submission_seq`,`effect`,`attempt`)
);
--> statement-breakpoint
CREATE TABLE `samples` (
	`id` uuid NOT NULL,
	`intake_id` uuid NOT NULL,
	`sample_values` json NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `samples_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `schema_snapshots` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`system_id` varchar(36) NOT NULL,
	`schema` json NOT NULL,
	`taken_at` datetime(3) NOT NULL,
	CONSTRAINT `schema_snapshots_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `sessions` (
	`token_hash` varchar(64) NOT NULL,
	`user_id` uuid NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`expires_at` datetime(3) NOT NULL,
	CONSTRAINT `sessions_token_hash` PRIMARY KEY(`token_hash`)
);
--> statement-breakpoint
CREATE TABLE `submissions` (
	`seq` bigint AUTO_INCREMENT NOT NULL,
	`id` uuid NOT NULL,
	`intake_id` uuid NOT NULL,
	`version` int NOT NULL,
	`state` varchar(12) NOT NULL,
	`label` varchar(160) NOT NULL,
	`submitted` json NOT NULL,
	`via` varchar(20) NOT NULL,
	`idempotency_key` varchar(200),
	`received_at` datetime(3) NOT NULL,
	`attempts` int NOT NULL DEFAULT 0,
	`due_at` datetime(3) NOT NULL,
	`blocked` boolean NOT NULL DEFAULT false,
	`claimed_by` varchar(60),
	`claimed_until` datetime(3),
	`settled_at` datetime(3),
	`answers` json,
	`course` json,
	`words` text,
	`reason` varchar(400),
	CONSTRAINT `submissions_seq` PRIMARY KEY(`seq`),
	CONSTRAINT `submissions_id_unique` UNIQUE(`id`),
	CONSTRAINT `submissions_once` UNIQUE(`intake_id`,`idempotency_key`)
);
--> statement-breakpoint
CREATE TABLE `systems` (
	`id` varchar(36) NOT NULL,
	`name` varchar(120) NOT NULL,
	`address` varchar(500) NOT NULL,
	`sealed_token` text NOT NULL,
	`practice` boolean NOT NULL,
	`record_page` varchar(500),
	`state` varchar(20) NOT NULL,
	`state_words` text,
	`latency_ms` int,
	`capabilities` json NOT NULL,
	`checked_at` datetime(3) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `systems_id` PRIMARY KEY(`id`),
	CONSTRAINT `systems_name_unique` UNIQUE(`name`)
);
--> statement-breakpoint
CREATE TABLE `users` (
	`id` uuid NOT NULL,
	`email` varchar(254) NOT NULL,
	`name` varchar(120) NOT NULL,
	`role` varchar(20) NOT NULL,
	`password_hash` varchar(200) NOT NULL,
	`active` boolean NOT NULL DEFAULT true,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `users_id` PRIMARY KEY(`id`),
	CONSTRAINT `users_email_unique` UNIQUE(`email`)
);
--> statement-breakpoint
CREATE INDEX `changes_subject` ON `changes` (`subject`,`id`);--> statement-breakpoint
CREATE INDEX `holders_seq` ON `lane_holders` (`seq`);--> statement-breakpoint
CREATE INDEX `lanes_seq` ON `lanes` (`seq`);--> statement-breakpoint
CREATE INDEX `ledger_record` ON `ledger` (`system_id`,`entity`,`record_id`);--> statement-breakpoint
CREATE INDEX `ledger_state` ON `ledger` (`state`,`intended_at`);--> statement-breakpoint
CREATE INDEX `samples_intake` ON `samples` (`intake_id`,`created_at`);--> statement-breakpoint
CREATE INDEX `snapshots_system` ON `schema_snapshots` (`system_id`,`id`);--> statement-breakpoint
CREATE INDEX `sessions_user` ON `sessions` (`user_id`);--> statement-breakpoint
CREATE INDEX `submissions_due` ON `submissions` (`state`,`blocked`,`due_at`);--> statement-breakpoint
CREATE INDEX `submissions_intake` ON `submissions` (`intake_id`,`seq`);--> statement-breakpoint
CREATE INDEX `submissions_received` ON `submissions` (`received_at`);