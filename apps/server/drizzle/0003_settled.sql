DROP INDEX `orders_number_unique`;--> statement-breakpoint
CREATE UNIQUE INDEX `orders_number` ON `orders` (`mode`,`number`);--> statement-breakpoint
ALTER TABLE `shop` ADD `last_test_number` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `visitors` ADD `typed` text;--> statement-breakpoint
UPDATE `codes` SET `terms` = json_set(`terms`, '$.discount.percent', max(0.01, round(json_extract(`terms`, '$.discount.percent'), 2))) WHERE json_extract(`terms`, '$.discount.kind') = 'percent';--> statement-breakpoint
UPDATE `products` SET `buy_again` = 1 WHERE `kind` <> 'digital';--> statement-breakpoint
UPDATE `shop` SET `last_test_number` = (SELECT coalesce(max(`number`), 0) FROM `orders` WHERE `mode` = 'test');
