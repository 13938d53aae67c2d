ALTER TABLE `charges` ADD `dispute` text;--> statement-breakpoint
ALTER TABLE `accounts` ADD `heard_until` integer;