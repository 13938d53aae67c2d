import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** Uploaded files: pictures, kept at several widths, and downloads, kept as they came. */
export const files = sqliteTable('files', {
  id: text().primaryKey(),
  kind: text({ enum: ['picture', 'download', 'video'] }).notNull(),
  name: text().notNull(),
  contentType: text().notNull(),
  bytes: integer().notNull(),
  width: integer(),
  height: integer(),
  widths: text({ mode: 'json' }).$type<number[]>(),
  createdAt: integer().notNull(),
});
