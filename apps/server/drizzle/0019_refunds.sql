CREATE TABLE `refunds` (
	`id` text PRIMARY KEY NOT NULL,
	`asked_id` text NOT NULL,
	`order_id` text NOT NULL,
	`payment_id` text NOT NULL,
	`charge_id` text,
	`way` text NOT NULL,
	`state` text NOT NULL,
	`amount` integer NOT NULL,
	`tax` integer NOT NULL,
	`lines` text NOT NULL,
	`reason` text NOT NULL,
	`takes_back` integer NOT NULL,
	`tells` integer NOT NULL,
	`failure` text,
	`created_at` integer NOT NULL,
	`done_at` integer,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`payment_id`) REFERENCES `payments`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `refunds_order` ON `refunds` (`order_id`);--> statement-breakpoint
CREATE INDEX `refunds_state` ON `refunds` (`state`);--> statement-breakpoint
CREATE UNIQUE INDEX `refunds_asked` ON `refunds` (`asked_id`,`payment_id`);--> statement-breakpoint
ALTER TABLE `plans` ADD `ended_at` integer;