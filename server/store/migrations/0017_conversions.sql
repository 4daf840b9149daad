CREATE TABLE `bulk_conversions` (
	`id` uuid NOT NULL,
	`intake_id` uuid NOT NULL,
	`record_parts` json NOT NULL,
	`counted` boolean NOT NULL DEFAULT false,
	`taken` boolean NOT NULL DEFAULT false,
	`next_link` text,
	`converted_before` int NOT NULL DEFAULT 0,
	`problems` json NOT NULL,
	CONSTRAINT `bulk_conversions_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `conversion_starts` (
	`intake_id` uuid NOT NULL,
	`condition_hash` varchar(32) NOT NULL,
	`since` datetime(3) NOT NULL,
	CONSTRAINT `conversion_starts_intake_id` PRIMARY KEY(`intake_id`)
);
--> statement-breakpoint
CREATE TABLE `met_records` (
	`intake_id` uuid NOT NULL,
	`record_id` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	CONSTRAINT `met_records_intake_id_record_id_pk` PRIMARY KEY(`intake_id`,`record_id`)
);
--> statement-breakpoint
ALTER TABLE `submissions` ADD `of_record` json;--> statement-breakpoint
ALTER TABLE `submissions` ADD `bulk_id` varchar(36);--> statement-breakpoint
CREATE INDEX `bulk_conversions_intake` ON `bulk_conversions` (`intake_id`);--> statement-breakpoint
CREATE INDEX `submissions_bulk` ON `submissions` (`bulk_id`,`state`);