CREATE TABLE `order_links` (
	`token` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`since` integer NOT NULL,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `order_links_order` ON `order_links` (`order_id`,`since`);