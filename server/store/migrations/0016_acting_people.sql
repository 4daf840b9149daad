CREATE TABLE `acting_systems` (
	`system_id` varchar(36) NOT NULL,
	`issuer` varchar(500) NOT NULL,
	`keys_address` varchar(500) NOT NULL,
	`token_address` varchar(500) NOT NULL,
	`client_id` varchar(200) NOT NULL,
	`sealed_secret` text NOT NULL,
	`client_by` varchar(6) NOT NULL,
	CONSTRAINT `acting_systems_system_id` PRIMARY KEY(`system_id`)
);
--> statement-breakpoint
CREATE TABLE `acting_tokens` (
	`system_id` varchar(36) NOT NULL,
	`person` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	`sealed` text NOT NULL,
	`ends_at` datetime(3) NOT NULL,
	CONSTRAINT `acting_tokens_system_id_person_pk` PRIMARY KEY(`system_id`,`person`)
);
--> statement-breakpoint
CREATE TABLE `panel_sights` (
	`intake_id` uuid NOT NULL,
	`seen_at` datetime(3),
	`seen_by` varchar(255),
	`seen_on` varchar(255),
	`refused_at` datetime(3),
	`refused_why` varchar(400),
	`refused_from` varchar(300),
	CONSTRAINT `panel_sights_intake_id` PRIMARY KEY(`intake_id`)
);
--> statement-breakpoint
CREATE TABLE `taken_contexts` (
	`jti` binary(16) NOT NULL,
	`good_until` datetime(3) NOT NULL,
	CONSTRAINT `taken_contexts_jti` PRIMARY KEY(`jti`)
);
--> statement-breakpoint
ALTER TABLE `submissions` ADD `acting` json;