import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** What opens an outside service that is no place to pay. Secrets are encrypted with a key that is not in the database. */
export const connections = sqliteTable('connections', {
  id: text().primaryKey(),
  provider: text().notNull().unique(),
  account: text().notNull(),
  publicKey: text().notNull(),
  secrets: text().notNull(),
  createdAt: integer().notNull(),
});
