CREATE TABLE `accounts` (
	`id` text PRIMARY KEY NOT NULL,
	`provider` text NOT NULL,
	`mode` text NOT NULL,
	`reference` text NOT NULL,
	`public_key` text NOT NULL,
	`secrets` text NOT NULL,
	`weight` integer NOT NULL,
	`cap` integer,
	`created_at` integer NOT NULL,
	`closed_at` integer
);
--> statement-breakpoint
CREATE UNIQUE INDEX `accounts_reference` ON `accounts` (`provider`,`mode`,`reference`);
--> statement-breakpoint
CREATE TABLE `payment_methods` (
	`id` text PRIMARY KEY NOT NULL,
	`contact_id` text,
	`account_id` text NOT NULL,
	`reference` text NOT NULL,
	`kind` text NOT NULL,
	`last4` text,
	`created_at` integer NOT NULL,
	`removed_at` integer,
	FOREIGN KEY (`contact_id`) REFERENCES `contacts`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `payment_methods_contact` ON `payment_methods` (`contact_id`);
--> statement-breakpoint
CREATE TABLE `edition_sales` (
	`edition_id` text NOT NULL,
	`mode` text NOT NULL,
	`sold` integer NOT NULL,
	PRIMARY KEY(`edition_id`, `mode`)
);
--> statement-breakpoint
INSERT INTO `accounts` SELECT 'acc_' || substr(`id`, 5) || 't', `provider`, 'test', `account`, `public_key`, `secrets`, 1, NULL, `created_at`, NULL FROM `connections` WHERE `provider` = 'quayside';
--> statement-breakpoint
INSERT INTO `accounts` SELECT 'acc_' || substr(`id`, 5) || 'l', `provider`, 'live', `account`, `public_key`, `secrets`, 1, NULL, `created_at`, NULL FROM `connections` WHERE `provider` = 'quayside';
--> statement-breakpoint
DELETE FROM `connections` WHERE `provider` = 'quayside';
--> statement-breakpoint
INSERT INTO `payment_methods` SELECT 'mth_' || substr(o.`id`, 5), o.`contact_id`, coalesce((SELECT a.`id` FROM `accounts` a WHERE a.`mode` = o.`mode` LIMIT 1), ''), o.`payment_method`, 'card', (SELECT c.`card_last4` FROM `charges` c WHERE c.`order_id` = o.`id` AND c.`card_last4` IS NOT NULL LIMIT 1), o.`created_at`, NULL FROM `orders` o WHERE o.`payment_method` IS NOT NULL;
--> statement-breakpoint
CREATE TABLE `payments` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`kind` text NOT NULL,
	`state` text NOT NULL,
	`due` integer NOT NULL,
	`amount` integer NOT NULL,
	`quote` text NOT NULL,
	`method_id` text,
	`created_at` integer NOT NULL,
	`paid_at` integer,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `payments` SELECT 'pay_' || substr(`id`, 5), `id`, 'first', CASE `state` WHEN 'paid' THEN 'paid' ELSE 'open' END, `created_at`, `total`, `quote`, CASE WHEN `payment_method` IS NULL THEN NULL ELSE 'mth_' || substr(`id`, 5) END, `created_at`, `paid_at` FROM `orders`;
--> statement-breakpoint
CREATE INDEX `payments_order` ON `payments` (`order_id`);
--> statement-breakpoint
CREATE INDEX `payments_due` ON `payments` (`state`,`due`);
--> statement-breakpoint
CREATE TABLE `plans` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`line_id` text NOT NULL,
	`method_id` text,
	`state` text NOT NULL,
	`terms` text NOT NULL,
	`bought_at` integer NOT NULL,
	`left` integer,
	`next_due` integer,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `plans` SELECT 'pln_' || substr(o.`id`, 5) || l.key, o.`id`, json_extract(l.value, '$.lineId'), CASE WHEN o.`payment_method` IS NULL THEN NULL ELSE 'mth_' || substr(o.`id`, 5) END, 'active',
	json_object(
		'line', json_patch('{}', json_object('id', json_extract(l.value, '$.lineId'), 'productId', json_extract(l.value, '$.productId'), 'editionId', json_extract(l.value, '$.editionId'), 'priceId', json_extract(l.value, '$.priceId'), 'name', json_extract(l.value, '$.name'), 'role', json_extract(l.value, '$.role'), 'kind', coalesce(json_extract(l.value, '$.kind'), 'digital'), 'taxClass', json_extract(l.value, '$.taxClass'), 'weight', coalesce(json_extract(l.value, '$.weight'), 0) / max(1, json_extract(l.value, '$.quantity')), 'price', json(json_extract(l.value, '$.price')), 'quantity', json_extract(l.value, '$.quantity'))),
		'buyer', json_patch('{}', json_object('country', json_extract(o.`quote`, '$.taxCountry'), 'region', json_extract(o.`buyer`, '$.region'), 'taxNumber', json_extract(o.`buyer`, '$.taxNumber'))),
		'code', (SELECT json(c.`terms`) FROM `codes` c WHERE c.`id` = o.`code_id` AND json_extract(c.`terms`, '$.payments') = 'every')
	),
	o.`paid_at`,
	CASE WHEN json_extract(l.value, '$.price.kind') = 'subscription' AND json_extract(l.value, '$.price.charges') IS NULL THEN NULL ELSE (SELECT count(*) FROM json_each(o.`quote`, '$.later') p WHERE EXISTS (SELECT 1 FROM json_each(p.value, '$.parts') q WHERE json_extract(q.value, '$.lineId') = json_extract(l.value, '$.lineId'))) END,
	(SELECT min(json_extract(p.value, '$.due')) FROM json_each(o.`quote`, '$.later') p WHERE EXISTS (SELECT 1 FROM json_each(p.value, '$.parts') q WHERE json_extract(q.value, '$.lineId') = json_extract(l.value, '$.lineId')))
	FROM `orders` o, json_each(o.`quote`, '$.lines') l
	WHERE o.`state` = 'paid' AND coalesce(json_extract(l.value, '$.part'), 'whole') IN ('instalment', 'period', 'trial')
	AND EXISTS (SELECT 1 FROM json_each(o.`quote`, '$.later') p, json_each(p.value, '$.parts') q WHERE json_extract(q.value, '$.lineId') = json_extract(l.value, '$.lineId'));
--> statement-breakpoint
CREATE INDEX `plans_order` ON `plans` (`order_id`);
--> statement-breakpoint
CREATE INDEX `plans_due` ON `plans` (`state`,`next_due`);
--> statement-breakpoint
CREATE TABLE `__new_order_lines` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`payment_id` text NOT NULL,
	`role` text NOT NULL,
	`part` text NOT NULL,
	`product_id` text,
	`edition_id` text,
	`price_id` text,
	`part_of` text,
	`name` text NOT NULL,
	`quantity` integer NOT NULL,
	`total` integer NOT NULL,
	`tax` integer NOT NULL,
	`net` integer NOT NULL,
	`tax_class` text,
	`rate` real NOT NULL,
	`refunded` integer NOT NULL,
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`payment_id`) REFERENCES `payments`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `__new_order_lines`(`id`, `order_id`, `payment_id`, `role`, `part`, `product_id`, `edition_id`, `price_id`, `part_of`, `name`, `quantity`, `total`, `tax`, `net`, `tax_class`, `rate`, `refunded`) SELECT l.`id`, l.`order_id`, 'pay_' || substr(l.`order_id`, 5), l.`role`, coalesce((SELECT json_extract(q.value, '$.part') FROM json_each(o.`quote`, '$.lines') q WHERE json_extract(q.value, '$.productId') = l.`product_id` AND json_extract(q.value, '$.name') = l.`name` LIMIT 1), 'whole'), l.`product_id`, l.`edition_id`, l.`price_id`, l.`part_of`, l.`name`, l.`quantity`, l.`total`, l.`tax`, l.`net`, ((SELECT json_extract(q.value, '$.taxClass') FROM json_each(o.`quote`, '$.lines') q WHERE json_extract(q.value, '$.productId') = l.`product_id` AND json_extract(q.value, '$.name') = l.`name` LIMIT 1)), coalesce((SELECT json_extract(q.value, '$.rate') FROM json_each(o.`quote`, '$.lines') q WHERE json_extract(q.value, '$.productId') = l.`product_id` AND json_extract(q.value, '$.name') = l.`name` LIMIT 1), 0), 0 FROM `order_lines` l JOIN `orders` o ON o.`id` = l.`order_id`;
--> statement-breakpoint
DROP TABLE `order_lines`;
--> statement-breakpoint
ALTER TABLE `__new_order_lines` RENAME TO `order_lines`;
--> statement-breakpoint
CREATE INDEX `order_lines_order` ON `order_lines` (`order_id`);
--> statement-breakpoint
CREATE INDEX `order_lines_payment` ON `order_lines` (`payment_id`);
--> statement-breakpoint
CREATE INDEX `order_lines_product` ON `order_lines` (`product_id`);
--> statement-breakpoint
CREATE INDEX `order_lines_edition` ON `order_lines` (`edition_id`);
--> statement-breakpoint
INSERT INTO `order_lines`(`id`, `order_id`, `payment_id`, `role`, `part`, `product_id`, `edition_id`, `price_id`, `part_of`, `name`, `quantity`, `total`, `tax`, `net`, `tax_class`, `rate`, `refunded`) SELECT 'lin_' || substr(o.`id`, 5) || 'sh', o.`id`, 'pay_' || substr(o.`id`, 5), 'shipping', 'whole', NULL, NULL, NULL, NULL, json_extract(o.`quote`, '$.shipping.zone'), 1, json_extract(o.`quote`, '$.shipping.total'), json_extract(o.`quote`, '$.shipping.tax'), json_extract(o.`quote`, '$.shipping.net'), NULL, coalesce(json_extract(o.`quote`, '$.shipping.rate'), 0), 0 FROM `orders` o WHERE o.`state` = 'paid' AND json_extract(o.`quote`, '$.shipping.total') IS NOT NULL;
--> statement-breakpoint
INSERT INTO `edition_sales` SELECT l.`edition_id`, o.`mode`, sum(l.`quantity`) FROM `order_lines` l JOIN `orders` o ON o.`id` = l.`order_id` WHERE o.`state` = 'paid' AND l.`edition_id` IS NOT NULL GROUP BY 1, 2;
--> statement-breakpoint
CREATE TABLE `__new_charges` (
	`id` text PRIMARY KEY NOT NULL,
	`order_id` text NOT NULL,
	`payment_id` text NOT NULL,
	`account_id` text,
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
	FOREIGN KEY (`order_id`) REFERENCES `orders`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`payment_id`) REFERENCES `payments`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `__new_charges`(`id`, `order_id`, `payment_id`, `account_id`, `provider`, `mode`, `idempotency_key`, `provider_charge_id`, `amount`, `currency`, `state`, `failure`, `card_last4`, `created_at`, `updated_at`) SELECT `id`, `order_id`, 'pay_' || substr(`order_id`, 5), (SELECT a.`id` FROM `accounts` a WHERE a.`provider` = `charges`.`provider` AND a.`mode` = `charges`.`mode`), `provider`, `mode`, `idempotency_key`, `provider_charge_id`, `amount`, `currency`, `state`, `failure`, `card_last4`, `created_at`, `updated_at` FROM `charges`;
--> statement-breakpoint
DROP TABLE `charges`;
--> statement-breakpoint
ALTER TABLE `__new_charges` RENAME TO `charges`;
--> statement-breakpoint
CREATE UNIQUE INDEX `charges_idempotencyKey_unique` ON `charges` (`idempotency_key`);
--> statement-breakpoint
CREATE INDEX `charges_order` ON `charges` (`order_id`);
--> statement-breakpoint
CREATE INDEX `charges_payment` ON `charges` (`payment_id`);
--> statement-breakpoint
CREATE INDEX `charges_state` ON `charges` (`state`);
--> statement-breakpoint
CREATE TABLE `__new_carts` (
	`id` text PRIMARY KEY NOT NULL,
	`visitor_id` text,
	`funnel_id` text NOT NULL,
	`step_id` text NOT NULL,
	`mode` text NOT NULL,
	`lines` text NOT NULL,
	`buyer` text NOT NULL,
	`code` text,
	`token` text NOT NULL,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
INSERT INTO `__new_carts`(`id`, `visitor_id`, `funnel_id`, `step_id`, `mode`, `lines`, `buyer`, `code`, `token`, `created_at`, `updated_at`) SELECT `id`, `visitor_id`, `funnel_id`, `step_id`, coalesce((SELECT json_extract(`settings`, '$.mode') FROM `shop` LIMIT 1), 'live'), coalesce((SELECT json_array(json_object('role', 'main', 'offerId', NULL, 'productId', s.`product_id`, 'priceId', json_extract(`carts`.`values`, '$.option'), 'quantity', max(1, CAST(coalesce(json_extract(`carts`.`values`, '$.quantity'), 1) AS integer)), 'chosen', NULL)) FROM `steps` s WHERE s.`id` = `carts`.`step_id` AND s.`product_id` IS NOT NULL), '[]'), json_patch('{}', json_object('email', json_extract(`values`, '$.email'), 'firstName', json_extract(`values`, '$.firstName'), 'lastName', json_extract(`values`, '$.lastName'), 'country', json_extract(`values`, '$.country'), 'region', json_extract(`values`, '$.region'), 'street', json_extract(`values`, '$.street'), 'postcode', json_extract(`values`, '$.postcode'), 'city', json_extract(`values`, '$.city'), 'taxNumber', json_extract(`values`, '$.taxNumber'))), nullif(json_extract(`values`, '$.code'), ''), lower(hex(randomblob(18))), `created_at`, `updated_at` FROM `carts`;
--> statement-breakpoint
DROP TABLE `carts`;
--> statement-breakpoint
ALTER TABLE `__new_carts` RENAME TO `carts`;
--> statement-breakpoint
CREATE UNIQUE INDEX `carts_token_unique` ON `carts` (`token`);
--> statement-breakpoint
CREATE INDEX `carts_visitor` ON `carts` (`visitor_id`,`step_id`);
--> statement-breakpoint
CREATE INDEX `carts_updated` ON `carts` (`updated_at`);
--> statement-breakpoint
CREATE TABLE `__new_orders` (
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
	`buyer` text NOT NULL,
	`email` text NOT NULL,
	`first_name` text NOT NULL,
	`goods` text NOT NULL,
	`code_id` text,
	`campaign` text,
	`token` text NOT NULL,
	`created_at` integer NOT NULL,
	`paid_at` integer,
	FOREIGN KEY (`contact_id`) REFERENCES `contacts`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `__new_orders`(`id`, `number`, `state`, `mode`, `funnel_id`, `step_id`, `cart_id`, `contact_id`, `visitor_id`, `currency`, `total`, `tax`, `net_goods`, `buyer`, `email`, `first_name`, `goods`, `code_id`, `campaign`, `token`, `created_at`, `paid_at`) SELECT `id`, `number`, `state`, `mode`, `funnel_id`, `step_id`, `cart_id`, `contact_id`, `visitor_id`, `currency`, `total`, `tax`, `net_goods`, `buyer`, coalesce(json_extract(`buyer`, '$.email'), ''), coalesce(json_extract(`buyer`, '$.firstName'), ''), coalesce((SELECT group_concat(json_extract(value, '$.name'), ', ') FROM json_each(`quote`, '$.lines') WHERE coalesce(json_extract(value, '$.part'), 'whole') <> 'set-up fee'), ''), `code_id`, `campaign`, `token`, `created_at`, `paid_at` FROM `orders`;
--> statement-breakpoint
DROP TABLE `orders`;
--> statement-breakpoint
ALTER TABLE `__new_orders` RENAME TO `orders`;
--> statement-breakpoint
CREATE UNIQUE INDEX `orders_number_unique` ON `orders` (`number`);
--> statement-breakpoint
CREATE UNIQUE INDEX `orders_cartId_unique` ON `orders` (`cart_id`);
--> statement-breakpoint
CREATE UNIQUE INDEX `orders_token_unique` ON `orders` (`token`);
--> statement-breakpoint
CREATE INDEX `orders_paid` ON `orders` (`paid_at`,`id`);
--> statement-breakpoint
CREATE INDEX `orders_total` ON `orders` (`total`,`id`);
--> statement-breakpoint
CREATE INDEX `orders_email` ON `orders` (`email`,`id`);
--> statement-breakpoint
CREATE INDEX `orders_funnel` ON `orders` (`funnel_id`,`paid_at`);
--> statement-breakpoint
CREATE INDEX `orders_contact` ON `orders` (`contact_id`);
--> statement-breakpoint
CREATE INDEX `orders_code` ON `orders` (`code_id`);
--> statement-breakpoint
CREATE TABLE `__new_steps` (
	`id` text PRIMARY KEY NOT NULL,
	`funnel_id` text NOT NULL,
	`kind` text NOT NULL,
	`name` text NOT NULL,
	`slug` text NOT NULL,
	`sells` text NOT NULL,
	`draft` text NOT NULL,
	`revision` integer NOT NULL,
	`updated_at` integer NOT NULL,
	FOREIGN KEY (`funnel_id`) REFERENCES `funnels`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
INSERT INTO `__new_steps`(`id`, `funnel_id`, `kind`, `name`, `slug`, `sells`, `draft`, `revision`, `updated_at`) SELECT `id`, `funnel_id`, `kind`, `name`, `slug`, CASE WHEN `product_id` IS NULL THEN '[]' ELSE json_array(json_object('id', 'off_' || substr(`id`, 5), 'productId', `product_id`, 'editionId', NULL, 'priceId', NULL, 'quantity', 1, 'discount', NULL, 'condition', NULL, 'place', 'main', 'words', json_object('headline', '', 'text', '', 'label', ''))) END, `draft`, `revision`, `updated_at` FROM `steps`;
--> statement-breakpoint
DROP TABLE `steps`;
--> statement-breakpoint
ALTER TABLE `__new_steps` RENAME TO `steps`;
--> statement-breakpoint
CREATE UNIQUE INDEX `steps_slug` ON `steps` (`funnel_id`,`slug`);
--> statement-breakpoint
CREATE TABLE `__new_funnels` (
	`id` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`slug` text NOT NULL,
	`entry_id` text NOT NULL,
	`gift_id` text,
	`archived_at` integer,
	`created_at` integer NOT NULL,
	`updated_at` integer NOT NULL
);
--> statement-breakpoint
INSERT INTO `__new_funnels`(`id`, `name`, `slug`, `entry_id`, `gift_id`, `archived_at`, `created_at`, `updated_at`) SELECT `id`, `name`, `slug`, `entry_id`, `gift_id`, `archived_at`, `created_at`, `updated_at` FROM `funnels`;
--> statement-breakpoint
DROP TABLE `funnels`;
--> statement-breakpoint
ALTER TABLE `__new_funnels` RENAME TO `funnels`;
--> statement-breakpoint
CREATE UNIQUE INDEX `funnels_slug_unique` ON `funnels` (`slug`);
--> statement-breakpoint
ALTER TABLE `contacts` ADD `orders` integer DEFAULT 0 NOT NULL;
--> statement-breakpoint
ALTER TABLE `contacts` ADD `paid` integer DEFAULT 0 NOT NULL;
--> statement-breakpoint
UPDATE `contacts` SET `orders` = s.`n`, `paid` = s.`paid` FROM (SELECT `contact_id`, count(*) AS `n`, sum(`total`) AS `paid` FROM `orders` WHERE `state` = 'paid' AND `mode` = 'live' AND `total` > 0 AND `contact_id` IS NOT NULL GROUP BY `contact_id`) s WHERE s.`contact_id` = `contacts`.`id`;
--> statement-breakpoint
DROP INDEX `contacts_created`;
--> statement-breakpoint
CREATE INDEX `contacts_created` ON `contacts` (`created_at`,`id`);
--> statement-breakpoint
CREATE INDEX `contacts_paid` ON `contacts` (`paid`,`id`);
--> statement-breakpoint
ALTER TABLE `visitors` ADD `visits` integer DEFAULT 1 NOT NULL;
--> statement-breakpoint
UPDATE `visitors` SET `visits` = 2 WHERE `last_at` - `first_at` > 1800000;
--> statement-breakpoint
DROP INDEX `products_archived`;
--> statement-breakpoint
CREATE INDEX `products_created` ON `products` (`archived_at`,`created_at`,`id`);
--> statement-breakpoint
CREATE INDEX `products_name` ON `products` (`archived_at`,`name`,`id`);
--> statement-breakpoint
CREATE INDEX `outbox_order` ON `outbox` (`order_id`);
--> statement-breakpoint
CREATE INDEX `outbox_contact` ON `outbox` (`contact_id`);
