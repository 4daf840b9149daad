ALTER TABLE `pairings` ADD `laid` int DEFAULT 0 NOT NULL;--> statement-breakpoint
UPDATE `pairings` SET `laid` = 2 WHERE `filled` = TRUE;
