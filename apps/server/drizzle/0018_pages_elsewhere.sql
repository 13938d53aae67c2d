CREATE TABLE `elsewhere_visitors` (
	`id` text PRIMARY KEY NOT NULL,
	`visitor_id` text NOT NULL,
	`arrived_at` integer
);
