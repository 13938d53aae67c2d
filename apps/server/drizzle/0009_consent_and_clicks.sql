CREATE TABLE `consent_wordings` (
	`id` text PRIMARY KEY NOT NULL,
	`at` integer NOT NULL,
	`settings` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `consents` (
	`id` text PRIMARY KEY NOT NULL,
	`visitor_id` text NOT NULL,
	`at` integer NOT NULL,
	`statistics` integer NOT NULL,
	`marketing` integer NOT NULL,
	`wording` text NOT NULL,
	`page` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `consents_at` ON `consents` (`at`);--> statement-breakpoint
CREATE INDEX `consents_visitor` ON `consents` (`visitor_id`);--> statement-breakpoint
ALTER TABLE `orders` ADD `publication_id` text;--> statement-breakpoint
ALTER TABLE `events` ADD `publication_id` text;--> statement-breakpoint
ALTER TABLE `events` ADD `first_campaign` text;--> statement-breakpoint
ALTER TABLE `events` ADD `clicks` text;--> statement-breakpoint
ALTER TABLE `events` ADD `may_tell` integer DEFAULT true NOT NULL;--> statement-breakpoint
ALTER TABLE `visitors` ADD `first_clicks` text;--> statement-breakpoint
ALTER TABLE `visitors` ADD `last_clicks` text;--> statement-breakpoint
ALTER TABLE `visitors` ADD `consent` text;