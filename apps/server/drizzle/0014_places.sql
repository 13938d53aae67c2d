CREATE TABLE `place_days` (
	`generation` integer NOT NULL,
	`place_id` text NOT NULL,
	`day` text NOT NULL,
	`device` text NOT NULL,
	`source` text NOT NULL,
	`campaign` text NOT NULL,
	`came` integer NOT NULL,
	`reached` integer NOT NULL,
	`leads` integer NOT NULL,
	PRIMARY KEY(`generation`, `place_id`, `day`, `device`, `source`, `campaign`)
);
--> statement-breakpoint
CREATE TABLE `place_visitors` (
	`generation` integer NOT NULL,
	`place_id` text NOT NULL,
	`visitor_id` text NOT NULL,
	`first_at` integer NOT NULL,
	`goal_at` integer,
	`lead_at` integer,
	`day` text NOT NULL,
	`device` text NOT NULL,
	`source` text NOT NULL,
	`campaign` text NOT NULL,
	PRIMARY KEY(`generation`, `place_id`, `visitor_id`)
);
--> statement-breakpoint
CREATE TABLE `roll_up_state` (
	`id` integer PRIMARY KEY NOT NULL,
	`generation` integer NOT NULL,
	`time_zone` text NOT NULL,
	`rebuilt_at` integer
);
