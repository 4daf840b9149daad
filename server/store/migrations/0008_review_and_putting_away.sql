ALTER TABLE `intakes` ADD `put_away_at` datetime(3);--> statement-breakpoint
ALTER TABLE `intakes` ADD `deleted_at` datetime(3);--> statement-breakpoint
ALTER TABLE `submissions` ADD `cause` char(16);--> statement-breakpoint
CREATE INDEX `submissions_cause` ON `submissions` (`state`,`cause`,`seq`);