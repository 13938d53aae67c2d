import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** Accounts at outside services. Secrets are encrypted with a key that is not in the database. */
export const connections = sqliteTable('connections', {
  id: text().primaryKey(),
  provider: text({ enum: ['quayside', 'studyporch'] })
    .notNull()
    .unique(),
  account: text().notNull(),
  publicKey: text().notNull(),
  secrets: text().notNull(),
  createdAt: integer().notNull(),
});
