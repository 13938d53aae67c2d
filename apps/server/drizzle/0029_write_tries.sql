DROP INDEX `limits_until`;--> statement-breakpoint
ALTER TABLE `installation` ADD `write_tries` integer DEFAULT 0 NOT NULL;