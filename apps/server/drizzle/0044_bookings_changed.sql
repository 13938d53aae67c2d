ALTER TABLE `bookings` ADD `zone` text;--> statement-breakpoint
ALTER TABLE `bookings` ADD `changes` integer DEFAULT 0 NOT NULL;