CREATE TABLE `adapter_versions` (
	`system_id` varchar(36) NOT NULL,
	`version` int NOT NULL,
	`document` json NOT NULL,
	`reasons` json NOT NULL,
	`described` json,
	`unused` json NOT NULL,
	`trials` json,
	`at` datetime(3) NOT NULL,
	`changed_by` varchar(120) NOT NULL,
	CONSTRAINT `adapter_versions_system_id_version_pk` PRIMARY KEY(`system_id`,`version`)
);
--> statement-breakpoint
CREATE TABLE `held_fields` (
	`feed` int NOT NULL,
	`field` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	`filled` boolean NOT NULL DEFAULT false,
	CONSTRAINT `held_fields_feed_field_pk` PRIMARY KEY(`feed`,`field`)
);
--> statement-breakpoint
CREATE TABLE `held_values` (
	`feed` int NOT NULL,
	`hash` bigint NOT NULL,
	`record_id` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	`generation` int NOT NULL,
	CONSTRAINT `held_values_feed_hash_record_id_pk` PRIMARY KEY(`feed`,`hash`,`record_id`)
);
--> statement-breakpoint
CREATE TABLE `system_tokens` (
	`system_id` varchar(36) NOT NULL,
	`sealed` text,
	`issue` int NOT NULL DEFAULT 0,
	`ends_at` datetime(3),
	`renewing_until` datetime(3),
	CONSTRAINT `system_tokens_system_id` PRIMARY KEY(`system_id`)
);
--> statement-breakpoint
ALTER TABLE `feeds` ADD `compared_at` datetime(3);--> statement-breakpoint
ALTER TABLE `systems` ADD `kind` varchar(10) DEFAULT 'odata' NOT NULL;--> statement-breakpoint
ALTER TABLE `systems` ADD `adapter_version` int;--> statement-breakpoint
ALTER TABLE `systems` ADD `adapter_drift` json;--> statement-breakpoint
CREATE INDEX `held_values_record` ON `held_values` (`feed`,`record_id`);