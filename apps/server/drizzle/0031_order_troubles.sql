CREATE TABLE `order_troubles` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`payment_id` text NOT NULL,
	`what` text NOT NULL,
	`message` text NOT NULL,
	`at` integer NOT NULL,
	`mended_at` integer,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`payment_id`) REFERENCES `payments`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `order_troubles_open` ON `order_troubles` (`order_id`) WHERE mended_at is null;