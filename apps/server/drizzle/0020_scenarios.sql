CREATE TABLE `scenarios` (
	`id` text PRIMARY KEY NOT NULL,
	`funnel_id` text NOT NULL,
	`name` text NOT NULL,
	`from` text NOT NULL,
	`to` text NOT NULL,
	`scenario` text NOT NULL,
	`per_visitor` real NOT NULL,
	`low` real NOT NULL,
	`high` real NOT NULL,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`funnel_id`) REFERENCES `funnels`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `scenarios_funnel` ON `scenarios` (`funnel_id`);