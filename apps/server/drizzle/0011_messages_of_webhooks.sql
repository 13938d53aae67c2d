INSERT INTO `messages` (`id`, `receiver_id`, `event_id`, `event`, `at`, `body`, `attempts`, `status`, `answer`, `sent_at`)
SELECT `id`, `webhook_id`, `event_id`, `event`, `at`, `body`, `attempts`, `status`, `answer`, `sent_at` FROM `webhook_deliveries`;--> statement-breakpoint
UPDATE `outbox` SET `idempotency_key` = 'message ' || substr(`idempotency_key`, 9), `payload` = json_remove(json_set(`payload`, '$.messageId', json_extract(`payload`, '$.deliveryId')), '$.deliveryId') WHERE `kind` = 'webhook';--> statement-breakpoint
DROP TABLE `webhook_deliveries`;