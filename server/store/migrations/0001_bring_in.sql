CREATE TABLE `file_parts` (
	`file_id` uuid NOT NULL,
	`part` int NOT NULL,
	`bytes` mediumblob NOT NULL,
	CONSTRAINT `file_parts_file_id_part_pk` PRIMARY KEY(`file_id`,`part`)
);
--> statement-breakpoint
CREATE TABLE `files` (
	`id` uuid NOT NULL,
	`name` varchar(255) NOT NULL,
	`bytes` int NOT NULL,
	`row_count` int NOT NULL,
	`column_names` json NOT NULL,
	`uploaded_at` datetime(3) NOT NULL,
	`uploaded_by` varchar(120) NOT NULL,
	CONSTRAINT `files_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `imports` (
	`id` uuid NOT NULL,
	`intake_id` uuid NOT NULL,
	`file_id` uuid NOT NULL,
	`state` varchar(10) NOT NULL,
	`row_count` int NOT NULL,
	`done` int NOT NULL DEFAULT 0,
	`accepted` int NOT NULL DEFAULT 0,
	`again` int NOT NULL DEFAULT 0,
	`problems` json NOT NULL,
	`words` text,
	`started_at` datetime(3) NOT NULL,
	`started_by` varchar(120) NOT NULL,
	`ended_at` datetime(3),
	`claimed_by` varchar(60),
	`claimed_until` datetime(3),
	CONSTRAINT `imports_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `intake_secrets` (
	`id` uuid NOT NULL,
	`intake_id` uuid NOT NULL,
	`sealed` text NOT NULL,
	`ending` varchar(8) NOT NULL,
	`created_at` datetime(3) NOT NULL,
	`good_until` datetime(3),
	CONSTRAINT `intake_secrets_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `learned_lines` (
	`from_words` varchar(200) NOT NULL,
	`entity` varchar(100) NOT NULL,
	`field` varchar(100) NOT NULL,
	`accepted` int NOT NULL DEFAULT 0,
	`rejected` int NOT NULL DEFAULT 0,
	CONSTRAINT `learned_lines_from_words_entity_field_pk` PRIMARY KEY(`from_words`,`entity`,`field`)
);
--> statement-breakpoint
ALTER TABLE `systems` ADD `personal` boolean DEFAULT false NOT NULL;--> statement-breakpoint
UPDATE `systems` SET `personal` = true;--> statement-breakpoint
CREATE INDEX `imports_intake` ON `imports` (`intake_id`);--> statement-breakpoint
CREATE INDEX `imports_state` ON `imports` (`state`,`claimed_until`);--> statement-breakpoint
CREATE INDEX `secrets_intake` ON `intake_secrets` (`intake_id`);