import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

export const users = sqliteTable('users', {
  id: text().primaryKey(),
  email: text().notNull().unique(),
  name: text().notNull(),
  passwordHash: text().notNull(),
  role: text({ enum: ['owner', 'editor', 'viewer'] }).notNull(),
  createdAt: integer().notNull(),
  /** The secret of the authenticator app, sealed; null where no codes are asked for. */
  twoFactorSecret: text(),
  /** The last time slot whose code was taken: none is good twice. */
  twoFactorSlot: integer(),
  /** Fingerprints of the recovery codes that are left. */
  recoveryCodes: text({ mode: 'json' }).$type<string[]>(),
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
