import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** The one row about the installation itself. */
export const installation = sqliteTable('installation', {
  id: integer().primaryKey(),
  /** What only this shop's own key gives: a key file of another shop is told by it. */
  keyMark: text().notNull(),
  /** How often it was tried whether anything can be written: what stays the same would not reach the disk. */
  writeTries: integer().notNull().default(0),
});

/** How often somebody has done what may be done so often only; who it was is kept as a fingerprint. */
export const limits = sqliteTable('limits', {
  id: text().primaryKey(),
  count: integer().notNull(),
  /** When it is forgotten, Unix time in milliseconds. */
  until: integer().notNull(),
});
