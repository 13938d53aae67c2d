CREATE TABLE `round_days` (
	`round_id` text NOT NULL,
	`arm_id` text NOT NULL,
	`day` text NOT NULL,
	`device` text NOT NULL,
	`visitors` integer NOT NULL,
	`reached` integer NOT NULL,
	`leads` integer NOT NULL,
	`buyers` integer NOT NULL,
	`net` integer NOT NULL,
	`refunded` integer NOT NULL,
	`squares` real NOT NULL,
	`orders` integer NOT NULL,
	`with_bump` integer NOT NULL,
	`with_addition` integer NOT NULL,
	`refunded_orders` integer NOT NULL,
	PRIMARY KEY(`round_id`, `arm_id`, `day`, `device`)
);
--> statement-breakpoint
ALTER TABLE `round_visitors` ADD `reached` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `round_visitors` ADD `leads` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `round_visitors` ADD `net` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `round_visitors` ADD `refunded` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `round_visitors` ADD `orders` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `round_visitors` ADD `with_bump` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `round_visitors` ADD `with_addition` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `round_visitors` ADD `refunded_orders` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
CREATE INDEX `round_visitors_buyers` ON `round_visitors` (`round_id`,`arm_id`,net - refunded) WHERE orders > 0;--> statement-breakpoint
ALTER TABLE `rounds` ADD `is_tallied` integer DEFAULT false NOT NULL;--> statement-breakpoint
CREATE INDEX `orders_visitor` ON `orders` (`visitor_id`) WHERE visitor_id is not null;