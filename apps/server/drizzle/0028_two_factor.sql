ALTER TABLE `users` ADD `two_factor_secret` text;--> statement-breakpoint
ALTER TABLE `users` ADD `two_factor_slot` integer;--> statement-breakpoint
ALTER TABLE `users` ADD `recovery_codes` text;