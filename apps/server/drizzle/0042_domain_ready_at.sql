ALTER TABLE `domains` ADD `ready_at` integer;--> statement-breakpoint
UPDATE `domains` SET `ready_at` = `checked_at` WHERE `state` = 'ready';
