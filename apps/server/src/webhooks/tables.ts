import type { WebhookEvent } from '@ruta/core/webhooks';
import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

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
