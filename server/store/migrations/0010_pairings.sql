CREATE TABLE `pair_due` (
	`pairing_id` uuid NOT NULL,
	`side` varchar(5) NOT NULL,
	`record_id` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	`since` bigint NOT NULL,
	`due_at` bigint NOT NULL,
	`doubt` boolean NOT NULL DEFAULT false,
	`mark` int NOT NULL DEFAULT 1,
	`attempts` int NOT NULL DEFAULT 0,
	CONSTRAINT `pair_due_pairing_id_side_record_id_pk` PRIMARY KEY(`pairing_id`,`side`,`record_id`)
);
--> statement-breakpoint
CREATE TABLE `pair_keys` (
	`pairing_id` uuid NOT NULL,
	`side` varchar(5) NOT NULL,
	`hash` binary(16) NOT NULL,
	`record_id` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	CONSTRAINT `pair_keys_pairing_id_side_hash_record_id_pk` PRIMARY KEY(`pairing_id`,`side`,`hash`,`record_id`)
);
--> statement-breakpoint
CREATE TABLE `pair_troubles` (
	`pair` bigint NOT NULL,
	`line` binary(16) NOT NULL,
	`pairing_id` uuid NOT NULL,
	`line_id` varchar(64) NOT NULL,
	`kind` varchar(10) NOT NULL,
	`side` varchar(5) NOT NULL,
	`cause` char(16) NOT NULL,
	`words` varchar(400) NOT NULL,
	`base` json,
	`now` json NOT NULL,
	`at` datetime(3) NOT NULL,
	CONSTRAINT `pair_troubles_pair_line_pk` PRIMARY KEY(`pair`,`line`)
);
--> statement-breakpoint
CREATE TABLE `pairing_beats` (
	`pairing_id` uuid NOT NULL,
	`minute` int NOT NULL,
	`behind_ms` int NOT NULL,
	`written` int NOT NULL,
	CONSTRAINT `pairing_beats_pairing_id_minute_pk` PRIMARY KEY(`pairing_id`,`minute`)
);
--> statement-breakpoint
CREATE TABLE `pairing_versions` (
	`pairing_id` uuid NOT NULL,
	`number` int NOT NULL,
	`document` json NOT NULL,
	`accepted` json NOT NULL,
	`at` datetime(3) NOT NULL,
	`applied_by` varchar(120) NOT NULL,
	CONSTRAINT `pairing_versions_pairing_id_number_pk` PRIMARY KEY(`pairing_id`,`number`)
);
--> statement-breakpoint
CREATE TABLE `pairings` (
	`id` uuid NOT NULL,
	`state` varchar(10) NOT NULL,
	`draft` json NOT NULL,
	`revision` int NOT NULL,
	`live_version` int,
	`indexed` boolean NOT NULL DEFAULT false,
	`filled` boolean NOT NULL DEFAULT false,
	`created_at` datetime(3) NOT NULL,
	`changed_at` datetime(3) NOT NULL,
	CONSTRAINT `pairings_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
CREATE TABLE `pairs` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`pairing_id` uuid NOT NULL,
	`left_id` varchar(255) COLLATE utf8mb4_nopad_bin,
	`right_id` varchar(255) COLLATE utf8mb4_nopad_bin,
	`state` varchar(10) NOT NULL,
	`base` json NOT NULL,
	`decided` json,
	`candidates` json,
	`turn` bigint,
	`pending` json,
	`settled_at` bigint NOT NULL,
	CONSTRAINT `pairs_id` PRIMARY KEY(`id`),
	CONSTRAINT `pairs_left` UNIQUE(`pairing_id`,`left_id`),
	CONSTRAINT `pairs_right` UNIQUE(`pairing_id`,`right_id`)
);
--> statement-breakpoint
CREATE TABLE `seen_links` (
	`feed` int NOT NULL,
	`field` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	`target` binary(16) NOT NULL,
	`record_id` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	CONSTRAINT `seen_links_feed_field_target_record_id_pk` PRIMARY KEY(`feed`,`field`,`target`,`record_id`)
);
--> statement-breakpoint
CREATE TABLE `seen_records` (
	`feed` int NOT NULL,
	`record_id` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	`seen_values` json NOT NULL,
	`etag` varchar(200),
	`changed_at` bigint,
	`asked` bigint NOT NULL,
	`touched` bigint NOT NULL,
	`version` int NOT NULL,
	`gone` boolean NOT NULL DEFAULT false,
	`generation` int NOT NULL,
	CONSTRAINT `seen_records_feed_record_id_pk` PRIMARY KEY(`feed`,`record_id`)
);
--> statement-breakpoint
ALTER TABLE `feeds` ADD `seen` json;--> statement-breakpoint
ALTER TABLE `feeds` ADD `seen_at` datetime(3);--> statement-breakpoint
ALTER TABLE `feeds` ADD `look_every` int;--> statement-breakpoint
CREATE INDEX `pair_due_at` ON `pair_due` (`pairing_id`,`due_at`);--> statement-breakpoint
CREATE INDEX `pair_keys_record` ON `pair_keys` (`pairing_id`,`side`,`record_id`);--> statement-breakpoint
CREATE INDEX `pair_troubles_cause` ON `pair_troubles` (`pairing_id`,`kind`,`cause`);--> statement-breakpoint
CREATE INDEX `pair_troubles_kind` ON `pair_troubles` (`kind`,`at`);--> statement-breakpoint
CREATE INDEX `pairs_state` ON `pairs` (`pairing_id`,`state`);--> statement-breakpoint
CREATE INDEX `pairs_turn` ON `pairs` (`turn`);--> statement-breakpoint
CREATE INDEX `seen_links_record` ON `seen_links` (`feed`,`record_id`);