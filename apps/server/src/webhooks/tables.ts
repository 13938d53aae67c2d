import type { WebhookEvent } from '@ruta/core/webhooks';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';

/** Programs outside that are told what happens. Their secrets are encrypted with a key that is not in the database. */
export const webhooks = sqliteTable('webhooks', {
  id: text().primaryKey(),
  name: text().notNull(),
  url: text().notNull(),
  events: text({ mode: 'json' }).$type<WebhookEvent[]>().notNull(),
  secret: text().notNull(),
  /** The secret before it, which signs along until the moment beside it. */
  olderSecret: text(),
  olderSecretUntil: integer(),
  isOn: integer({ mode: 'boolean' }).notNull(),
  createdAt: integer().notNull(),
});

/** One message to one webhook: what was said and what was answered. Trying is the outbox's matter. */
export const webhookDeliveries = sqliteTable(
  'webhook_deliveries',
  {
    id: text().primaryKey(),
    webhookId: text().notNull(),
    eventId: text().notNull(),
    event: text().notNull(),
    at: integer().notNull(),
    /** Written when it is first sent, and the same from then on. */
    body: text(),
    attempts: integer().notNull(),
    status: integer(),
    answer: text(),
    sentAt: integer(),
  },
  (table) => [index('webhook_deliveries_of').on(table.webhookId, table.at), uniqueIndex('webhook_deliveries_once').on(table.webhookId, table.eventId)],
);
