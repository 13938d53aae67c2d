CREATE TABLE `unknown_charges` (
	`id` text PRIMARY KEY NOT NULL,
	`account_id` text NOT NULL,
	`provider_charge_id` text NOT NULL,
	`idempotency_key` text NOT NULL,
	`amount` integer NOT NULL,
	`currency` text NOT NULL,
	`card_last4` text,
	`found_at` integer NOT NULL,
	`state` text NOT NULL,
	`done_at` integer,
	FOREIGN KEY (`account_id`) REFERENCES `accounts`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `unknown_charges_key` ON `unknown_charges` (`account_id`,`idempotency_key`);