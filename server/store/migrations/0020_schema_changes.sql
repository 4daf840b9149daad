CREATE TABLE `schema_changes` (
	`id` uuid NOT NULL,
	`turn` bigint NOT NULL,
	`title` varchar(200) NOT NULL,
	`steps` json NOT NULL,
	`outcomes` json NOT NULL,
	`direction` varchar(5) NOT NULL,
	`at` datetime(3) NOT NULL,
	`changed_by` varchar(120) NOT NULL,
	CONSTRAINT `schema_changes_id` PRIMARY KEY(`id`)
);
