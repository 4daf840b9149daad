CREATE TABLE `payment_services` (
	`id` uuid NOT NULL,
	`name` varchar(120) NOT NULL,
	`address` varchar(500) NOT NULL,
	`sealed_key` text NOT NULL,
	`sealed_signing` text NOT NULL,
	`test` boolean NOT NULL,
	`created_at` datetime(3) NOT NULL,
	CONSTRAINT `payment_services_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `payments` (
	`id` uuid NOT NULL,
	`submission_id` uuid NOT NULL,
	`service_id` uuid NOT NULL,
	`minor` bigint NOT NULL,
	`currency` char(3) NOT NULL,
	`test` boolean NOT NULL,
	`state` varchar(12) NOT NULL,
	`session` varchar(200) COLLATE utf8mb4_nopad_bin,
	`page` varchar(2000),
	`words` varchar(400),
	`begun_at` datetime(3) NOT NULL,
	`changed_at` datetime(3) NOT NULL,
	CONSTRAINT `payments_id` PRIMARY KEY(`id`),
	CONSTRAINT `payments_submission` UNIQUE(`submission_id`)
);
--> statement-breakpoint
CREATE TABLE `visitor_file_parts` (
	`file_id` varchar(43) COLLATE utf8mb4_nopad_bin NOT NULL,
	`part` int NOT NULL,
	`bytes` mediumblob NOT NULL,
	CONSTRAINT `visitor_file_parts_file_id_part_pk` PRIMARY KEY(`file_id`,`part`)
);
--> statement-breakpoint
CREATE TABLE `visitor_file_uses` (
	`file_id` varchar(43) COLLATE utf8mb4_nopad_bin NOT NULL,
	`submission_id` uuid NOT NULL,
	CONSTRAINT `visitor_file_uses_file_id_submission_id_pk` PRIMARY KEY(`file_id`,`submission_id`)
);
--> statement-breakpoint
CREATE TABLE `visitor_files` (
	`id` varchar(43) COLLATE utf8mb4_nopad_bin NOT NULL,
	`intake_id` uuid NOT NULL,
	`name` varchar(200) NOT NULL,
	`type` varchar(100) NOT NULL,
	`bytes` int NOT NULL,
	`came_at` datetime(3) NOT NULL,
	CONSTRAINT `visitor_files_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE INDEX `payments_state` ON `payments` (`state`,`begun_at`);--> statement-breakpoint
CREATE INDEX `visitor_file_uses_submission` ON `visitor_file_uses` (`submission_id`);--> statement-breakpoint
CREATE INDEX `visitor_files_came` ON `visitor_files` (`came_at`);