CREATE TABLE `domains` (
	`id` text PRIMARY KEY NOT NULL,
	`host` text NOT NULL,
	`funnel_id` text,
	`token` text NOT NULL,
	`state` text NOT NULL,
	`problems` text NOT NULL,
	`checked_at` integer,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `domains_host_unique` ON `domains` (`host`);--> statement-breakpoint
CREATE INDEX `domains_funnel` ON `domains` (`funnel_id`);