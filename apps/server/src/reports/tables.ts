import type { SpendMapping } from '@ruta/core/spend';
import { integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** What ads cost, by day and campaign, as the files of the platforms say. */
export const adSpend = sqliteTable(
  'ad_spend',
  {
    day: text().notNull(),
    source: text().notNull(),
    campaign: text().notNull(),
    /** Minor units of the shop's currency. */
    cost: integer().notNull(),
    clicks: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.day, table.source, table.campaign] })],
);

/** How files with the same columns were last read. */
export const spendMappings = sqliteTable('spend_mappings', {
  /** The names of the columns, in their order. */
  columns: text().primaryKey(),
  mapping: text({ mode: 'json' }).$type<SpendMapping>().notNull(),
  usedAt: integer().notNull(),
});
