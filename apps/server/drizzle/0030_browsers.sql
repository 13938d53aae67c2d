ALTER TABLE `orders` ADD `browser_id` text;--> statement-breakpoint
CREATE INDEX `orders_browser` ON `orders` (`browser_id`,`funnel_id`) WHERE browser_id is not null;--> statement-breakpoint
ALTER TABLE `visitors` ADD `counts_as` text;--> statement-breakpoint
UPDATE `orders` SET `browser_id` = `visitor_id` WHERE `visitor_id` IS NOT NULL;
