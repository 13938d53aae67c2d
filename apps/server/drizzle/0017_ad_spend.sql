CREATE TABLE `ad_spend` (
	`day` text NOT NULL,
	`source` text NOT NULL,
	`campaign` text NOT NULL,
	`cost` integer NOT NULL,
	`clicks` integer NOT NULL,
	PRIMARY KEY(`day`, `source`, `campaign`)
);
--> statement-breakpoint
CREATE TABLE `spend_mappings` (
	`columns` text PRIMARY KEY NOT NULL,
	`mapping` text NOT NULL,
	`used_at` integer NOT NULL
);
