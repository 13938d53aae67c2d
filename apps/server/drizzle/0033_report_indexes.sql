CREATE INDEX `plans_bought` ON `plans` (`bought_at`);--> statement-breakpoint
CREATE INDEX `outbox_failed` ON `outbox` (`failed_at`) WHERE failed_at is not null;