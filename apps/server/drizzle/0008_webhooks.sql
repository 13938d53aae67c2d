CREATE TABLE `webhook_deliveries` (
	`id` text PRIMARY KEY NOT NULL,
	`webhook_id` text NOT NULL,
	`event_id` text NOT NULL,
	`event` text NOT NULL,
	`at` integer NOT NULL,
	`body` text,
	`attempts` integer NOT NULL,
	`status` integer,
	`answer` text,
	`sent_at` integer
);
--> statement-breakpoint
CREATE INDEX `webhook_deliveries_of` ON `webhook_deliveries` (`webhook_id`,`at`);--> statement-breakpoint
CREATE UNIQUE INDEX `webhook_deliveries_once` ON `webhook_deliveries` (`webhook_id`,`event_id`);--> statement-breakpoint
CREATE TABLE `webhooks` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`url` text NOT NULL,
	`events` text NOT NULL,
	`secret` text NOT NULL,
	`older_secret` text,
	`older_secret_until` integer,
	`is_on` integer NOT NULL,
	`created_at` integer NOT NULL
);
