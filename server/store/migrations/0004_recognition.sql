CREATE TABLE `decided_pairs` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`scope` int NOT NULL,
	`a` varchar(255) NOT NULL,
	`b` varchar(255) NOT NULL,
	`same` boolean NOT NULL,
	`weight_hundredths` int NOT NULL,
	`evidence` json NOT NULL,
	`at` datetime(3) NOT NULL,
	`decided_by` varchar(120) NOT NULL,
	CONSTRAINT `decided_pairs_id` PRIMARY KEY(`id`),
	CONSTRAINT `decided_pairs_once` UNIQUE(`scope`,`a`,`b`)
);
--> statement-breakpoint
CREATE TABLE `double_groups` (
	`id` int AUTO_INCREMENT NOT NULL,
	`search_id` uuid NOT NULL,
	`scope` int NOT NULL,
	`members` json NOT NULL,
	`weight_hundredths` int NOT NULL,
	`verdict` varchar(6) NOT NULL,
	`state` varchar(10) NOT NULL,
	`merge_plan` json,
	`words` text,
	`decided_at` datetime(3),
	`decided_by` varchar(120),
	CONSTRAINT `double_groups_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `double_searches` (
	`id` uuid NOT NULL,
	`scope` int NOT NULL,
	`other_scope` int NOT NULL,
	`state` varchar(10) NOT NULL,
	`total` int NOT NULL DEFAULT 0,
	`done` int NOT NULL DEFAULT 0,
	`compared` bigint NOT NULL DEFAULT 0,
	`pairs` json NOT NULL,
	`words` text,
	`started_at` datetime(3) NOT NULL,
	`started_by` varchar(120) NOT NULL,
	`ended_at` datetime(3),
	`claimed_by` varchar(60),
	`claimed_until` datetime(3),
	CONSTRAINT `double_searches_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `known_keys` (
	`scope` int NOT NULL,
	`hash` bigint NOT NULL,
	`n` bigint NOT NULL,
	CONSTRAINT `known_keys_scope_hash_n_pk` PRIMARY KEY(`scope`,`hash`,`n`)
);
--> statement-breakpoint
CREATE TABLE `known_records` (
	`n` bigint AUTO_INCREMENT NOT NULL,
	`scope` int NOT NULL,
	`record_id` varchar(255) NOT NULL,
	`packed` text NOT NULL,
	`generation` int NOT NULL,
	CONSTRAINT `known_records_n` PRIMARY KEY(`n`),
	CONSTRAINT `known_records_id` UNIQUE(`scope`,`record_id`)
);
--> statement-breakpoint
CREATE TABLE `recognition_versions` (
	`scope` int NOT NULL,
	`number` int NOT NULL,
	`document` json NOT NULL,
	`saved_at` datetime(3) NOT NULL,
	`saved_by` varchar(120) NOT NULL,
	CONSTRAINT `recognition_versions_scope_number_pk` PRIMARY KEY(`scope`,`number`)
);
--> statement-breakpoint
CREATE TABLE `recognitions` (
	`scope` int AUTO_INCREMENT NOT NULL,
	`system_id` varchar(36) NOT NULL,
	`entity` varchar(255) NOT NULL,
	`document` json NOT NULL,
	`revision` int NOT NULL,
	`generation` int NOT NULL DEFAULT 1,
	`method` int NOT NULL,
	`filled_at` datetime(3),
	`next_link` text,
	`delta_link` text,
	`changes_since` datetime(3),
	`known` int NOT NULL DEFAULT 0,
	`counts` mediumblob,
	`counted_at` datetime(3),
	`counted_over` int NOT NULL DEFAULT 0,
	`measure` json,
	`ignored` json,
	`words` text,
	`due_at` datetime(3) NOT NULL,
	`claimed_by` varchar(60),
	`claimed_until` datetime(3),
	CONSTRAINT `recognitions_scope` PRIMARY KEY(`scope`),
	CONSTRAINT `recognitions_entity` UNIQUE(`system_id`,`entity`)
);
--> statement-breakpoint
CREATE INDEX `double_groups_search` ON `double_groups` (`search_id`,`state`,`weight_hundredths`);--> statement-breakpoint
CREATE INDEX `double_searches_state` ON `double_searches` (`state`,`claimed_until`);--> statement-breakpoint
CREATE INDEX `known_records_order` ON `known_records` (`scope`,`n`);