CREATE TABLE `conversion_rules` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`is_on` integer NOT NULL,
	`moment` text NOT NULL,
	`form_ids` text NOT NULL,
	`funnel_id` text,
	`destination` text NOT NULL,
	`token` text,
	`event` text NOT NULL,
	`value` text NOT NULL,
	`keys` text NOT NULL,
	`test_code` text,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE `visitors` ADD `address` text;--> statement-breakpoint
ALTER TABLE `visitors` ADD `agent` text;