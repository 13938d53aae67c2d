CREATE TABLE `commissions` (
	`id` text PRIMARY KEY NOT NULL,
	`partner_id` text NOT NULL,
	`tier` integer NOT NULL,
	`order_id` text NOT NULL,
	`payment_id` text NOT NULL,
	`line_id` text NOT NULL,
	`rate` text NOT NULL,
	`amount` integer NOT NULL,
	`paid_out` integer DEFAULT 0 NOT NULL,
	`at` integer NOT NULL,
	`held_until` integer NOT NULL,
	FOREIGN KEY (`partner_id`) REFERENCES `partners`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`line_id`) REFERENCES `order_lines`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `commissions_line` ON `commissions` (`line_id`,`tier`);--> statement-breakpoint
CREATE INDEX `commissions_partner` ON `commissions` (`partner_id`,`at`);--> statement-breakpoint
CREATE INDEX `commissions_order` ON `commissions` (`order_id`);--> statement-breakpoint
CREATE INDEX `commissions_payment` ON `commissions` (`payment_id`);--> statement-breakpoint
CREATE TABLE `partner_program` (
	`id` integer PRIMARY KEY NOT NULL,
	`program` text NOT NULL
);
--> statement-breakpoint
CREATE TABLE `partners` (
	`id` text PRIMARY KEY NOT NULL,
	`code` text NOT NULL,
	`name` text NOT NULL,
	`email` text NOT NULL,
	`document` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `partners_code_unique` ON `partners` (`code`);--> statement-breakpoint
CREATE TABLE `payout_parts` (
	`payout_id` text NOT NULL,
	`partner_id` text NOT NULL,
	`amount` integer NOT NULL,
	FOREIGN KEY (`payout_id`) REFERENCES `payouts`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`partner_id`) REFERENCES `partners`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `payout_parts_once` ON `payout_parts` (`payout_id`,`partner_id`);--> statement-breakpoint
CREATE INDEX `payout_parts_partner` ON `payout_parts` (`partner_id`);--> statement-breakpoint
CREATE TABLE `payouts` (
	`id` text PRIMARY KEY NOT NULL,
	`at` integer NOT NULL,
	`total` integer NOT NULL
);
--> statement-breakpoint
ALTER TABLE `orders` ADD `partner_id` text;--> statement-breakpoint
CREATE INDEX `orders_partner` ON `orders` (`partner_id`) WHERE partner_id is not null;--> statement-breakpoint
ALTER TABLE `visitors` ADD `partner` text;