CREATE TABLE `turns` (
	`id` bigint AUTO_INCREMENT NOT NULL,
	`kind` varchar(20) NOT NULL,
	`subject` varchar(64) COLLATE utf8mb4_nopad_bin NOT NULL,
	`actor` varchar(120) NOT NULL,
	`acting_person` varchar(255),
	`at` datetime(3) NOT NULL,
	-- Where it comes from, while this migration runs.
	`was_group` int,
	`was_change` bigint,
	CONSTRAINT `turns_id` PRIMARY KEY(`id`),
	INDEX (`was_group`),
	INDEX (`was_change`)
);
--> statement-breakpoint
ALTER TABLE `lane_holders` CHANGE `seq` `turn` bigint NOT NULL, RENAME INDEX `holders_seq` TO `holders_turn`;
--> statement-breakpoint
ALTER TABLE `lanes` CHANGE `seq` `turn` bigint NOT NULL, RENAME INDEX `lanes_seq` TO `lanes_turn`;
--> statement-breakpoint
ALTER TABLE `submissions` MODIFY COLUMN `seq` bigint NOT NULL;
--> statement-breakpoint
ALTER TABLE `double_groups` ADD `turn` bigint, ADD `back_turn` bigint;
--> statement-breakpoint
ALTER TABLE `ledger`
	ADD `turn` bigint DEFAULT 0 NOT NULL,
	ADD `step` varchar(64) COLLATE utf8mb4_nopad_bin DEFAULT '' NOT NULL,
	ADD `step_row` int DEFAULT 0 NOT NULL,
	ADD `of_entity` varchar(255) COLLATE utf8mb4_nopad_bin DEFAULT '' NOT NULL,
	ADD `of_record` varchar(255) COLLATE utf8mb4_nopad_bin DEFAULT '' NOT NULL,
	DROP INDEX `ledger_effect`;
--> statement-breakpoint
-- What led to removed records was led back without naming the change; the key of the effect had it.
UPDATE `ledger` SET `undoes` = CAST(SUBSTRING(`effect`, 6) AS UNSIGNED)
	WHERE `submission_seq` < 0 AND `undoes` IS NULL AND `effect` LIKE 'undo %';
--> statement-breakpoint
INSERT INTO `turns` (`id`, `kind`, `subject`, `actor`, `at`)
	SELECT `seq`, 'submission', `id`, 'connection', `received_at` FROM `submissions`;
--> statement-breakpoint
INSERT INTO `turns` (`kind`, `subject`, `actor`, `at`, `was_group`)
	SELECT IF(MAX(`effect` = 'link'), 'link', 'merge'), -`submission_seq`, MIN(`actor`), MIN(`intended_at`), -`submission_seq`
	FROM `ledger` WHERE `submission_seq` < 0 GROUP BY `submission_seq`;
--> statement-breakpoint
INSERT INTO `turns` (`kind`, `subject`, `actor`, `at`, `was_change`)
	SELECT 'taking back', COALESCE(t.`id`, l.`submission_seq`), l.`actor`, l.`intended_at`, l.`id`
	FROM `ledger` l LEFT JOIN `turns` t ON t.`was_group` = -l.`submission_seq` WHERE l.`undoes` IS NOT NULL;
--> statement-breakpoint
UPDATE `ledger` SET `turn` = `submission_seq`, `step` = SUBSTRING_INDEX(`effect`, '#', 1),
	`step_row` = IF(`effect` LIKE '%#%', SUBSTRING_INDEX(`effect`, '#', -1) + 1, 0)
	WHERE `submission_seq` > 0 AND `undoes` IS NULL;
--> statement-breakpoint
UPDATE `ledger` l JOIN `turns` t ON t.`was_group` = -l.`submission_seq` SET l.`turn` = t.`id`,
	l.`step` = CASE WHEN l.`effect` IN ('values', 'link') THEN l.`effect` WHEN l.`effect` LIKE 'gone %' THEN 'others' ELSE 'references' END,
	l.`of_entity` = IF(l.`effect` IN ('values', 'link'), '', l.`entity`),
	l.`of_record` = IF(l.`effect` IN ('values', 'link'), '', COALESCE(l.`record_id`, '')),
	-- Two fields of one record were two effects; they stay apart.
	l.`step_row` = IF(l.`effect` IN ('values', 'link') OR l.`effect` LIKE 'gone %', 0, l.`id` MOD 2147483647)
	WHERE l.`undoes` IS NULL;
--> statement-breakpoint
UPDATE `ledger` l JOIN `turns` t ON t.`was_change` = l.`id` LEFT JOIN `ledger` c ON c.`id` = l.`undoes`
	SET l.`turn` = t.`id`, l.`step` = COALESCE(c.`step`, ''), l.`step_row` = COALESCE(c.`step_row`, 0),
	l.`of_entity` = COALESCE(c.`of_entity`, ''), l.`of_record` = COALESCE(c.`of_record`, '');
--> statement-breakpoint
UPDATE `double_groups` g JOIN `turns` t ON t.`was_group` = g.`id` SET g.`turn` = t.`id`;
--> statement-breakpoint
ALTER TABLE `turns` DROP COLUMN `was_group`, DROP COLUMN `was_change`;
--> statement-breakpoint
ALTER TABLE `ledger`
	MODIFY `turn` bigint NOT NULL,
	MODIFY `step` varchar(64) COLLATE utf8mb4_nopad_bin NOT NULL,
	DROP COLUMN `submission_seq`,
	DROP COLUMN `effect`,
	DROP COLUMN `actor`,
	ADD CONSTRAINT `ledger_undoes` UNIQUE(`undoes`,`attempt`),
	ADD CONSTRAINT `ledger_effect` UNIQUE(`turn`,`step`,`step_row`,`of_entity`,`of_record`,`attempt`);
