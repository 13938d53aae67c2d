ALTER TABLE `charges` ADD `asks` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `charges` ADD `ask_at` integer;