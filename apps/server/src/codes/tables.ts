import type { Code } from '@ruta/core/codes';
import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** Discount codes. The terms are one document; the normalised code is the key buyers find it by. */
export const codes = sqliteTable('codes', {
  id: text().primaryKey(),
  /** Upper case, so that it is found however it is typed. */
  code: text().notNull().unique(),
  terms: text({ mode: 'json' }).$type<Code>().notNull(),
  archivedAt: integer(),
  createdAt: integer().notNull(),
  updatedAt: integer().notNull(),
});
