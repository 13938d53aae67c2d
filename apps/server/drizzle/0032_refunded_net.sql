ALTER TABLE `order_lines` ADD `refunded_net` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
UPDATE `order_lines` SET `refunded_net` = `refunded` - (2 * `tax` * `refunded` + `total`) / (2 * `total`) WHERE `refunded` > 0 AND `total` > 0;
