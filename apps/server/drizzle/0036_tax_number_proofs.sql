CREATE TABLE `tax_number_proofs` (
	`order_id` text PRIMARY KEY NOT NULL,
	`number` text NOT NULL,
	`state` text NOT NULL,
	`name` text NOT NULL,
	`address` text NOT NULL,
	`reference` text NOT NULL,
	`asked_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `tax_number_proofs_state` ON `tax_number_proofs` (`state`,`asked_at`);