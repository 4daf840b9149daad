CREATE TABLE `feeds` (
	`id` int AUTO_INCREMENT NOT NULL,
	`system_id` varchar(36) NOT NULL,
	`entity` varchar(255) COLLATE utf8mb4_nopad_bin NOT NULL,
	`generation` int NOT NULL DEFAULT 1,
	`filled_at` datetime(3),
	`next_link` text,
	`delta_link` text,
	`changes_since` datetime(3),
	`words` text,
	CONSTRAINT `feeds_id` PRIMARY KEY(`id`),
	CONSTRAINT `feeds_entity` UNIQUE(`system_id`,`entity`)
);
--> statement-breakpoint
CREATE TABLE `jobs` (
	`id` uuid NOT NULL,
	`kind` varchar(20) NOT NULL,
	`subject` varchar(64) COLLATE utf8mb4_nopad_bin NOT NULL,
	`state` varchar(10) NOT NULL,
	`total` int NOT NULL DEFAULT 0,
	`done` int NOT NULL DEFAULT 0,
	`words` text,
	`due_at` datetime(3) NOT NULL,
	`started_at` datetime(3) NOT NULL,
	`started_by` varchar(120) NOT NULL,
	`ended_at` datetime(3),
	`claimed_by` varchar(60),
	`claimed_until` datetime(3),
	`claim` int NOT NULL DEFAULT 0,
	CONSTRAINT `jobs_id` PRIMARY KEY(`id`)
);
--> statement-breakpoint
-- What was done so far goes on as jobs, and the readings of known records as feeds.
INSERT INTO `jobs` (`id`, `kind`, `subject`, `state`, `total`, `done`, `words`, `due_at`, `started_at`, `started_by`, `ended_at`)
	SELECT `id`, 'import', `id`, `state`, `row_count`, `done`, `words`, `started_at`, `started_at`, `started_by`, `ended_at` FROM `imports`;
--> statement-breakpoint
INSERT INTO `jobs` (`id`, `kind`, `subject`, `state`, `total`, `done`, `words`, `due_at`, `started_at`, `started_by`, `ended_at`)
	SELECT `id`, 'doubles', `id`, `state`, `total`, `done`, `words`, `started_at`, `started_at`, `started_by`, `ended_at` FROM `double_searches`;
--> statement-breakpoint
INSERT INTO `feeds` (`id`, `system_id`, `entity`, `generation`, `filled_at`, `next_link`, `delta_link`, `changes_since`, `words`)
	SELECT `scope`, `system_id`, `entity`, `generation`, `filled_at`, `next_link`, `delta_link`, `changes_since`, `words` FROM `recognitions`;
--> statement-breakpoint
INSERT INTO `jobs` (`id`, `kind`, `subject`, `state`, `due_at`, `started_at`, `started_by`)
	SELECT UUID(), 'feed', `id`, 'running', NOW(3), NOW(3), 'Zusammen' FROM `feeds`;
--> statement-breakpoint
DROP INDEX `imports_state` ON `imports`;
--> statement-breakpoint
DROP INDEX `double_searches_state` ON `double_searches`;
--> statement-breakpoint
ALTER TABLE `double_groups` ADD `merge_job` uuid;
--> statement-breakpoint
CREATE INDEX `jobs_due` ON `jobs` (`kind`,`state`,`due_at`);
--> statement-breakpoint
CREATE INDEX `jobs_subject` ON `jobs` (`kind`,`subject`);
--> statement-breakpoint
CREATE INDEX `double_searches_scope` ON `double_searches` (`scope`);
--> statement-breakpoint
ALTER TABLE `imports`
	DROP COLUMN `state`,
	DROP COLUMN `row_count`,
	DROP COLUMN `done`,
	DROP COLUMN `words`,
	DROP COLUMN `started_at`,
	DROP COLUMN `started_by`,
	DROP COLUMN `ended_at`,
	DROP COLUMN `claimed_by`,
	DROP COLUMN `claimed_until`;
--> statement-breakpoint
ALTER TABLE `double_searches`
	DROP COLUMN `state`,
	DROP COLUMN `total`,
	DROP COLUMN `done`,
	DROP COLUMN `words`,
	DROP COLUMN `started_at`,
	DROP COLUMN `started_by`,
	DROP COLUMN `ended_at`,
	DROP COLUMN `claimed_by`,
	DROP COLUMN `claimed_until`;
--> statement-breakpoint
ALTER TABLE `recognitions`
	DROP COLUMN `generation`,
	DROP COLUMN `filled_at`,
	DROP COLUMN `next_link`,
	DROP COLUMN `delta_link`,
	DROP COLUMN `changes_since`,
	DROP COLUMN `words`,
	DROP COLUMN `due_at`,
	DROP COLUMN `claimed_by`,
	DROP COLUMN `claimed_until`;
