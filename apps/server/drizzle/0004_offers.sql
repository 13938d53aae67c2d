CREATE TABLE `offer_showings` (
	`offer_id` text NOT NULL,
	`order_id` text NOT NULL,
	`funnel_id` text NOT NULL,
	`step_id` text NOT NULL,
	`role` text NOT NULL,
	`mode` text NOT NULL,
	`shown_at` integer NOT NULL,
	`taken_at` integer,
	`declined_at` integer,
	`value` integer DEFAULT 0 NOT NULL,
	PRIMARY KEY(`offer_id`, `order_id`)
);
--> statement-breakpoint
CREATE INDEX `offer_showings_funnel` ON `offer_showings` (`funnel_id`,`shown_at`);--> statement-breakpoint
CREATE INDEX `offer_showings_order` ON `offer_showings` (`order_id`);--> statement-breakpoint
DROP INDEX `steps_slug`;--> statement-breakpoint
ALTER TABLE `steps` ADD `removed_at` integer;--> statement-breakpoint
CREATE UNIQUE INDEX `steps_slug` ON `steps` (`funnel_id`,`slug`) WHERE removed_at is null;--> statement-breakpoint
ALTER TABLE `funnels` ADD `revision` integer DEFAULT 1 NOT NULL;--> statement-breakpoint
ALTER TABLE `orders` ADD `offered` text DEFAULT '[]' NOT NULL;--> statement-breakpoint
ALTER TABLE `payments` ADD `step_id` text;--> statement-breakpoint
ALTER TABLE `payments` ADD `offer_id` text;--> statement-breakpoint
ALTER TABLE `payments` ADD `told_at` integer;--> statement-breakpoint
CREATE UNIQUE INDEX `payments_offer` ON `payments` (`order_id`,`offer_id`) WHERE offer_id is not null and state <> 'cancelled';