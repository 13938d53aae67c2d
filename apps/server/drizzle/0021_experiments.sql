CREATE TABLE `arms` (
	`id` text PRIMARY KEY NOT NULL,
	`experiment_id` text NOT NULL,
	`position` integer NOT NULL,
	`name` text NOT NULL,
	`share` integer NOT NULL,
	`changes` text NOT NULL,
	`revision` integer DEFAULT 1 NOT NULL,
	`page_revisions` text DEFAULT '{}' NOT NULL,
	FOREIGN KEY (`experiment_id`) REFERENCES `experiments`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `arms_experiment` ON `arms` (`experiment_id`);--> statement-breakpoint
CREATE TABLE `experiments` (
	`id` text PRIMARY KEY NOT NULL,
	`funnel_id` text NOT NULL,
	`step_id` text NOT NULL,
	`state` text NOT NULL,
	`name` text NOT NULL,
	`question` text DEFAULT '' NOT NULL,
	`goal` text NOT NULL,
	`change` real NOT NULL,
	`audience` text,
	`ends` text NOT NULL,
	`last_day` text,
	`learned` text DEFAULT '' NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	`ended_at` integer,
	FOREIGN KEY (`funnel_id`) REFERENCES `funnels`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `experiments_funnel` ON `experiments` (`funnel_id`);--> statement-breakpoint
CREATE INDEX `experiments_state` ON `experiments` (`state`);--> statement-breakpoint
CREATE TABLE `round_visitors` (
	`round_id` text NOT NULL,
	`visitor_id` text NOT NULL,
	`arm_id` text NOT NULL,
	`first_at` integer NOT NULL,
	`day` text NOT NULL,
	`device` text NOT NULL,
	PRIMARY KEY(`round_id`, `visitor_id`)
);
--> statement-breakpoint
CREATE TABLE `rounds` (
	`id` text PRIMARY KEY NOT NULL,
	`experiment_id` text NOT NULL,
	`funnel_id` text NOT NULL,
	`number` integer NOT NULL,
	`started_at` integer NOT NULL,
	`ended_at` integer,
	`outcome` text,
	`why` text,
	`terms` text NOT NULL,
	`arms` text NOT NULL,
	`stops` text NOT NULL,
	`publication_id` text NOT NULL,
	`base` text NOT NULL,
	`valid` text DEFAULT '[]' NOT NULL,
	`looked_at` integer,
	FOREIGN KEY (`experiment_id`) REFERENCES `experiments`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `rounds_number` ON `rounds` (`experiment_id`,`number`);--> statement-breakpoint
CREATE INDEX `rounds_funnel` ON `rounds` (`funnel_id`,`ended_at`);--> statement-breakpoint
ALTER TABLE `orders` ADD `arms` text;--> statement-breakpoint
ALTER TABLE `events` ADD `arms` text;