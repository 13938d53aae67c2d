import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

export const users = sqliteTable('users', {
  id: text().primaryKey(),
  email: text().notNull().unique(),
  name: text().notNull(),
  passwordHash: text().notNull(),
  role: text({ enum: ['owner', 'editor', 'viewer'] }).notNull(),
  createdAt: integer().notNull(),
});

export const sessions = sqliteTable(
  'sessions',
  {
    id: text().primaryKey(),
    expiresAt: integer().notNull(),
    data: text().notNull(),
  },
  (table) => [index('sessions_expiry').on(table.expiresAt)],
);
