CREATE TABLE `licence_keys` (
	`id` text PRIMARY KEY NOT NULL,
	`product_id` text NOT NULL,
	`value` text NOT NULL,
	`order_id` text,
	`line_id` text,
	`created_at` integer NOT NULL,
	FOREIGN KEY (`product_id`) REFERENCES `products`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `licence_keys_value` ON `licence_keys` (`product_id`,`value`);--> statement-breakpoint
CREATE INDEX `licence_keys_order` ON `licence_keys` (`order_id`);--> statement-breakpoint
CREATE TABLE `codes` (
	`id` text PRIMARY KEY NOT NULL,
	`code` text NOT NULL,
	`terms` text NOT NULL,
	`archived_at` integer,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
CREATE UNIQUE INDEX `codes_code_unique` ON `codes` (`code`);--> statement-breakpoint
CREATE TABLE `holds` (
	`cart_id` text NOT NULL,
	`kind` text NOT NULL,
	`subject_id` text NOT NULL,
	`quantity` integer NOT NULL,
	`email` text,
	`until` integer NOT NULL,
	PRIMARY KEY(`cart_id`, `kind`, `subject_id`)
);
--> statement-breakpoint
CREATE INDEX `holds_subject` ON `holds` (`subject_id`,`until`);--> statement-breakpoint
CREATE TABLE `__new_products` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`label` text NOT NULL,
	`description` text NOT NULL,
	`included` text NOT NULL,
	`kind` text NOT NULL,
	`tax_class` text NOT NULL,
	`status` text NOT NULL,
	`picture_ids` text NOT NULL,
	`preview_url` text NOT NULL,
	`refund_policy` text NOT NULL,
	`contact_email` text NOT NULL,
	`confirmation` text NOT NULL,
	`buy_again` integer NOT NULL,
	`alone` integer NOT NULL,
	`categories` text NOT NULL,
	`tags` text NOT NULL,
	`editions` text NOT NULL,
	`bundle` text NOT NULL,
	`delivery` text NOT NULL,
	`closes_at` integer,
	`lead_to` text NOT NULL,
	`archived_at` integer,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
INSERT INTO `__new_products`("id", "name", "label", "description", "included", "kind", "tax_class", "status", "picture_ids", "preview_url", "refund_policy", "contact_email", "confirmation", "buy_again", "alone", "categories", "tags", "editions", "bundle", "delivery", "closes_at", "lead_to", "archived_at", "created_at", "updated_at") SELECT
	"id", "name", "label",
	CASE "description" WHEN '' THEN '' ELSE '<p>' || replace(replace(replace("description", '&', '&amp;'), '<', '&lt;'), '>', '&gt;') || '</p>' END,
	'[]', "kind", "tax_class", 'live',
	CASE WHEN "picture_id" IS NULL THEN '[]' ELSE json_array("picture_id") END,
	'', '', '', '{"kind":"page","text":"","buttonWords":"","buttonUrl":""}', 0, 0, '[]', '[]',
	json_array(json_object(
		'id', 'edn_' || substr("id", 5), 'name', '', 'sku', '', 'weight', 0, 'stock', NULL,
		'prices', json_array(json_object('id', 'prc_' || substr("id", 5), 'name', '', 'description', '', 'price', json("price"), 'confirmation', NULL))
	)),
	'[]', '{"link":null,"course":null,"keys":null,"maxDownloads":20,"downloadDays":null}', NULL, '{"kind":"message","text":""}',
	"archived_at", "created_at", "updated_at" FROM `products`;--> statement-breakpoint
DROP TABLE `products`;--> statement-breakpoint
ALTER TABLE `__new_products` RENAME TO `products`;--> statement-breakpoint
CREATE INDEX `products_archived` ON `products` (`archived_at`);--> statement-breakpoint
CREATE TABLE `__new_grants` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`line_id` text NOT NULL,
	`file_id` text NOT NULL,
	`downloads` integer NOT NULL,
	`max_downloads` integer,
	`until` integer,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`line_id`) REFERENCES `order_lines`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`file_id`) REFERENCES `files`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `__new_grants`("id", "order_id", "line_id", "file_id", "downloads", "max_downloads", "until") SELECT "id", "order_id", "line_id", "file_id", "downloads", "max_downloads", NULL FROM `grants`;--> statement-breakpoint
DROP TABLE `grants`;--> statement-breakpoint
ALTER TABLE `__new_grants` RENAME TO `grants`;--> statement-breakpoint
CREATE INDEX `grants_order` ON `grants` (`order_id`);--> statement-breakpoint
ALTER TABLE `product_files` ADD `only` text;--> statement-breakpoint
ALTER TABLE `order_lines` ADD `part_of` text;--> statement-breakpoint
ALTER TABLE `order_lines` ADD `edition_id` text;--> statement-breakpoint
ALTER TABLE `order_lines` ADD `price_id` text;--> statement-breakpoint
CREATE INDEX `order_lines_edition` ON `order_lines` (`edition_id`);--> statement-breakpoint
ALTER TABLE `orders` ADD `code_id` text;--> statement-breakpoint
ALTER TABLE `orders` ADD `payment_method` text;--> statement-breakpoint
CREATE INDEX `orders_code` ON `orders` (`code_id`);--> statement-breakpoint
UPDATE `order_lines` SET
	`edition_id` = (SELECT 'edn_' || substr(`product_id`, 5) FROM `products` WHERE `products`.`id` = `order_lines`.`product_id`),
	`price_id` = (SELECT 'prc_' || substr(`product_id`, 5) FROM `products` WHERE `products`.`id` = `order_lines`.`product_id`);--> statement-breakpoint
-- Quotes of past orders learn the figures that quotes have had since; none of their sums changes.
UPDATE `orders` SET `quote` = json_set(
	`quote`,
	'$.taxNumber', NULL, '$.later', json('[]'), '$.endless', json('false'), '$.dueLater', 0, '$.total', `total`, '$.orderTotal', `net_goods`,
	'$.shipping', CASE WHEN json_type(`quote`, '$.shipping') = 'object' THEN json_set(
		json_extract(`quote`, '$.shipping'),
		'$.listed', CASE WHEN json_extract(`quote`, '$.pricesIncludeTax') THEN json_extract(`quote`, '$.shipping.total') ELSE json_extract(`quote`, '$.shipping.net') END,
		'$.paidBefore', 0, '$.weight', 0, '$.value', json_extract(`quote`, '$.goods')
	) ELSE NULL END,
	'$.lines', (
		SELECT json_group_array(json_set(
			line.value,
			'$.lineId', json_extract(line.value, '$.id'), '$.part', 'whole', '$.number', 0, '$.of', NULL,
			'$.kind', coalesce((SELECT `kind` FROM `products` WHERE `products`.`id` = json_extract(line.value, '$.productId')), 'digital'),
			'$.lineAmount', json_extract(line.value, '$.amount'), '$.weight', 0,
			'$.price', CASE json_extract(line.value, '$.regularUnit') WHEN 0 THEN json('{"kind":"free"}') ELSE json_object('kind', 'one-time', 'regular', json_extract(line.value, '$.regularUnit')) END,
			'$.taxShares', json_array(json_object(
				'taxClass', json_extract(line.value, '$.taxClass'), 'base', json_extract(line.value, '$.discounted'), 'rate', json_extract(line.value, '$.rate'),
				'net', json_extract(line.value, '$.net'), 'tax', json_extract(line.value, '$.tax'), 'total', json_extract(line.value, '$.total')
			))
		)) FROM json_each(`quote`, '$.lines') AS line
	)
);
