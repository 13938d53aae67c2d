CREATE TABLE `messages` (
	`id` text PRIMARY KEY NOT NULL,
	`receiver_id` text NOT NULL,
	`event_id` text NOT NULL,
	`event` text NOT NULL,
	`at` integer NOT NULL,
	`body` text,
	`attempts` integer NOT NULL,
	`status` integer,
	`answer` text,
	`sent_at` integer,
	`is_withheld` integer DEFAULT false NOT NULL
);
--> statement-breakpoint
CREATE INDEX `messages_of` ON `messages` (`receiver_id`,`at`);--> statement-breakpoint
CREATE UNIQUE INDEX `messages_once` ON `messages` (`receiver_id`,`event_id`);