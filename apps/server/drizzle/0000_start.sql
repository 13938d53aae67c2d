CREATE TABLE `product_files` (
	`product_id` text NOT NULL,
	`file_id` text NOT NULL,
	`position` integer NOT NULL,
	PRIMARY KEY(`product_id`, `file_id`),
	FOREIGN KEY (`product_id`) REFERENCES `products`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`file_id`) REFERENCES `files`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `products` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`label` text NOT NULL,
	`description` text NOT NULL,
	`kind` text NOT NULL,
	`tax_class` text NOT NULL,
	`price` text NOT NULL,
	`picture_id` text,
	`archived_at` integer,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`picture_id`) REFERENCES `files`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `products_archived` ON `products` (`archived_at`);--> statement-breakpoint
CREATE TABLE `connections` (
	`id` text PRIMARY KEY NOT NULL,
	`provider` text NOT NULL,
	`account` text NOT NULL,
	`public_key` text NOT NULL,
	`secrets` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `connections_provider_unique` ON `connections` (`provider`);--> statement-breakpoint
CREATE TABLE `contacts` (
	`id` text PRIMARY KEY NOT NULL,
	`email` text NOT NULL,
	`first_name` text NOT NULL,
	`last_name` text NOT NULL,
	`country` text,
	`answers` text NOT NULL,
	`funnel_id` text,
	`campaign` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `contacts_email_unique` ON `contacts` (`email`);--> statement-breakpoint
CREATE INDEX `contacts_created` ON `contacts` (`created_at`);--> statement-breakpoint
CREATE TABLE `files` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`name` text NOT NULL,
	`content_type` text NOT NULL,
	`bytes` integer NOT NULL,
	`width` integer,
	`height` integer,
	`widths` text,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `funnels` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`slug` text NOT NULL,
	`entry_id` text NOT NULL,
	`gift_id` text,
	`archived_at` integer,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`gift_id`) REFERENCES `products`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `funnels_slug_unique` ON `funnels` (`slug`);--> statement-breakpoint
CREATE TABLE `publications` (
	`id` text PRIMARY KEY NOT NULL,
	`funnel_id` text NOT NULL,
	`version` integer NOT NULL,
	`at` integer NOT NULL,
	`user_id` text,
	`snapshot` text NOT NULL,
	FOREIGN KEY (`funnel_id`) REFERENCES `funnels`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `publications_version` ON `publications` (`funnel_id`,`version`);--> statement-breakpoint
CREATE TABLE `routes` (
	`id` text PRIMARY KEY NOT NULL,
	`funnel_id` text NOT NULL,
	`from_step_id` text NOT NULL,
	`outcome` text NOT NULL,
	`condition` text,
	`priority` integer NOT NULL,
	`to_step_id` text NOT NULL,
	FOREIGN KEY (`funnel_id`) REFERENCES `funnels`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`from_step_id`) REFERENCES `steps`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`to_step_id`) REFERENCES `steps`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `routes_funnel` ON `routes` (`funnel_id`);--> statement-breakpoint
CREATE TABLE `steps` (
	`id` text PRIMARY KEY NOT NULL,
	`funnel_id` text NOT NULL,
	`kind` text NOT NULL,
	`name` text NOT NULL,
	`slug` text NOT NULL,
	`product_id` text,
	`draft` text NOT NULL,
	`revision` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`funnel_id`) REFERENCES `funnels`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`product_id`) REFERENCES `products`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `steps_slug` ON `steps` (`funnel_id`,`slug`);--> statement-breakpoint
CREATE TABLE `outbox` (
	`id` text PRIMARY KEY NOT NULL,
	`kind` text NOT NULL,
	`payload` text NOT NULL,
	`idempotency_key` text NOT NULL,
	`order_id` text,
	`contact_id` text,
	`attempts` integer NOT NULL,
	`next_at` integer NOT NULL,
	`sent_at` integer,
	`failed_at` integer,
	`last_error` text,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `outbox_idempotencyKey_unique` ON `outbox` (`idempotency_key`);--> statement-breakpoint
CREATE INDEX `outbox_due` ON `outbox` (`sent_at`,`failed_at`,`next_at`);--> statement-breakpoint
CREATE TABLE `carts` (
	`id` text PRIMARY KEY NOT NULL,
	`visitor_id` text,
	`funnel_id` text NOT NULL,
	`step_id` text NOT NULL,
	`values` text NOT NULL,
	`paid_order_id` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `carts_visitor` ON `carts` (`visitor_id`,`step_id`);--> statement-breakpoint
CREATE TABLE `charges` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`provider` text NOT NULL,
	`mode` text NOT NULL,
	`idempotency_key` text NOT NULL,
	`provider_charge_id` text,
	`amount` integer NOT NULL,
	`currency` text NOT NULL,
	`state` text NOT NULL,
	`failure` text,
	`card_last4` text,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `charges_idempotencyKey_unique` ON `charges` (`idempotency_key`);--> statement-breakpoint
CREATE INDEX `charges_order` ON `charges` (`order_id`);--> statement-breakpoint
CREATE INDEX `charges_state` ON `charges` (`state`);--> statement-breakpoint
CREATE TABLE `grants` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`line_id` text NOT NULL,
	`file_id` text NOT NULL,
	`downloads` integer NOT NULL,
	`max_downloads` integer NOT NULL,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`line_id`) REFERENCES `order_lines`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`file_id`) REFERENCES `files`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `grants_order` ON `grants` (`order_id`);--> statement-breakpoint
CREATE TABLE `order_lines` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`charge_id` text,
	`product_id` text NOT NULL,
	`name` text NOT NULL,
	`role` text NOT NULL,
	`quantity` integer NOT NULL,
	`total` integer NOT NULL,
	`tax` integer NOT NULL,
	`net` integer NOT NULL,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `order_lines_order` ON `order_lines` (`order_id`);--> statement-breakpoint
CREATE INDEX `order_lines_product` ON `order_lines` (`product_id`);--> statement-breakpoint
CREATE TABLE `orders` (
	`id` text PRIMARY KEY NOT NULL,
	`number` integer,
	`state` text NOT NULL,
	`mode` text NOT NULL,
	`funnel_id` text NOT NULL,
	`step_id` text NOT NULL,
	`cart_id` text NOT NULL,
	`contact_id` text,
	`visitor_id` text,
	`currency` text NOT NULL,
	`total` integer NOT NULL,
	`tax` integer NOT NULL,
	`net_goods` integer NOT NULL,
	`quote` text NOT NULL,
	`buyer` text NOT NULL,
	`campaign` text,
	`token` text NOT NULL,
	`created_at` integer NOT NULL,
	`paid_at` integer,
	FOREIGN KEY (`contact_id`) REFERENCES `contacts`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `orders_number_unique` ON `orders` (`number`);--> statement-breakpoint
CREATE UNIQUE INDEX `orders_cartId_unique` ON `orders` (`cart_id`);--> statement-breakpoint
CREATE UNIQUE INDEX `orders_token_unique` ON `orders` (`token`);--> statement-breakpoint
CREATE INDEX `orders_paid` ON `orders` (`paid_at`);--> statement-breakpoint
CREATE INDEX `orders_funnel` ON `orders` (`funnel_id`,`paid_at`);--> statement-breakpoint
CREATE INDEX `orders_contact` ON `orders` (`contact_id`);--> statement-breakpoint
CREATE TABLE `shop` (
	`id` integer PRIMARY KEY NOT NULL,
	`settings` text NOT NULL,
	`brand` text NOT NULL,
	`tax_table` text NOT NULL,
	`shipping_table` text NOT NULL,
	`last_order_number` integer NOT NULL
);
--> statement-breakpoint
CREATE TABLE `sessions` (
	`id` text PRIMARY KEY NOT NULL,
	`expires_at` integer NOT NULL,
	`data` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `sessions_expiry` ON `sessions` (`expires_at`);--> statement-breakpoint
CREATE TABLE `users` (
	`id` text PRIMARY KEY NOT NULL,
	`email` text NOT NULL,
	`name` text NOT NULL,
	`password_hash` text NOT NULL,
	`role` text NOT NULL,
	`created_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `users_email_unique` ON `users` (`email`);--> statement-breakpoint
CREATE TABLE `events` (
	`id` text PRIMARY KEY NOT NULL,
	`at` integer NOT NULL,
	`kind` text NOT NULL,
	`mode` text NOT NULL,
	`visitor_id` text,
	`visit_id` text,
	`funnel_id` text,
	`step_id` text,
	`order_id` text,
	`contact_id` text,
	`device` text,
	`campaign` text,
	`data` text NOT NULL
);
--> statement-breakpoint
CREATE INDEX `events_order` ON `events` (`order_id`) WHERE order_id is not null;--> statement-breakpoint
CREATE INDEX `events_contact` ON `events` (`contact_id`) WHERE contact_id is not null;--> statement-breakpoint
CREATE INDEX `events_visitor` ON `events` (`visitor_id`);--> statement-breakpoint
CREATE TABLE `step_visitors` (
	`step_id` text NOT NULL,
	`visitor_id` text NOT NULL,
	`funnel_id` text NOT NULL,
	`first_at` integer NOT NULL,
	`goal_at` integer,
	PRIMARY KEY(`step_id`, `visitor_id`)
);
--> statement-breakpoint
CREATE INDEX `step_visitors_first` ON `step_visitors` (`funnel_id`,`first_at`);--> statement-breakpoint
CREATE TABLE `visitors` (
	`id` text PRIMARY KEY NOT NULL,
	`contact_id` text,
	`first_at` integer NOT NULL,
	`last_at` integer NOT NULL,
	`visit_id` text NOT NULL,
	`device` text NOT NULL,
	`first_campaign` text,
	`last_campaign` text
);
