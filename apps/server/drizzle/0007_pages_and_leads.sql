CREATE TABLE `bookings` (
	`id` text PRIMARY KEY NOT NULL,
	`step_id` text NOT NULL,
	`element_id` text NOT NULL,
	`contact_id` text NOT NULL,
	`subject` text NOT NULL,
	`place` text NOT NULL,
	`start_at` integer NOT NULL,
	`end_at` integer NOT NULL,
	`mode` text NOT NULL,
	`cancelled_at` integer,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `bookings_start` ON `bookings` (`start_at`);--> statement-breakpoint
CREATE INDEX `bookings_contact` ON `bookings` (`contact_id`);--> statement-breakpoint
CREATE TABLE `contact_tags` (
	`contact_id` text NOT NULL,
	`tag` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`contact_id`, `tag`),
	FOREIGN KEY (`contact_id`) REFERENCES `contacts`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `contact_tags_tag` ON `contact_tags` (`tag`,`contact_id`);--> statement-breakpoint
CREATE TABLE `form_answers` (
	`contact_id` text NOT NULL,
	`form_id` text NOT NULL,
	`field` text NOT NULL,
	`label` text NOT NULL,
	`value` text NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`contact_id`, `form_id`, `field`),
	FOREIGN KEY (`contact_id`) REFERENCES `contacts`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `lead_sources` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`key_hash` text NOT NULL,
	`fields` text NOT NULL,
	`tags` text NOT NULL,
	`thanks_url` text,
	`received` integer DEFAULT 0 NOT NULL,
	`last_at` integer,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `lead_sources_keyHash_unique` ON `lead_sources` (`key_hash`);--> statement-breakpoint
CREATE TABLE `own_sections` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`section` text NOT NULL,
	`page_version` integer NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `page_versions` (
	`id` text PRIMARY KEY NOT NULL,
	`step_id` text NOT NULL,
	`name` text NOT NULL,
	`page` text NOT NULL,
	`user_id` text,
	`at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `page_versions_step` ON `page_versions` (`step_id`,`at`);--> statement-breakpoint
ALTER TABLE `funnels` ADD `brand` text;--> statement-breakpoint
ALTER TABLE `funnels` ADD `code` text;