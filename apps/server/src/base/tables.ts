import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** The one row about the installation itself. */
export const installation = sqliteTable('installation', {
  id: integer().primaryKey(),
  /** What only this shop's own key gives: a key file of another shop is told by it. */
  keyMark: text().notNull(),
});
