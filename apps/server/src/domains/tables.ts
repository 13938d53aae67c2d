import type { DomainState } from '@ruta/core/domains';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** Domains of the seller's own under which the public site is reached. */
export const domains = sqliteTable(
  'domains',
  {
    id: text().primaryKey(),
    host: text().notNull().unique(),
    /** What it opens on; null for the shop's own first page. */
    funnelId: text(),
    /** Stands in an entry of its names, and so proves whose it is. */
    token: text().notNull(),
    state: text().$type<DomainState>().notNull(),
    problems: text({ mode: 'json' }).$type<string[]>().notNull(),
    checkedAt: integer(),
    /** When it was last found to lead here; null for one that never has. */
    readyAt: integer(),
    createdAt: integer().notNull(),
  },
  (table) => [index('domains_funnel').on(table.funnelId)],
);
