CREATE TABLE `route_visitors` (
	`route_id` text NOT NULL,
	`visitor_id` text NOT NULL,
	`funnel_id` text NOT NULL,
	`first_at` integer NOT NULL,
	PRIMARY KEY(`route_id`, `visitor_id`)
);
--> statement-breakpoint
CREATE INDEX `route_visitors_first` ON `route_visitors` (`funnel_id`,`first_at`);