import type { CartBuyer, CartLine } from '@ruta/core/checkout';
import type { Mode } from '@ruta/core/shop';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** A checkout somebody began: kept as soon as there is an address. */
export const carts = sqliteTable(
  'carts',
  {
    id: text().primaryKey(),
    visitorId: text(),
    funnelId: text().notNull(),
    stepId: text().notNull(),
    mode: text().$type<Mode>().notNull(),
    lines: text({ mode: 'json' }).$type<CartLine[]>().notNull(),
    buyer: text({ mode: 'json' }).$type<CartBuyer>().notNull(),
    /** The discount code that was typed; null for none. */
    code: text(),
    /** What it was worth when it was last changed: what is paid at once, or after a free trial; minor units of the shop's currency; null in carts from before this was kept. */
    total: integer(),
    /** Stands for the right to open this cart again, in a link that is mailed. */
    token: text().notNull().unique(),
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [index('carts_visitor').on(table.visitorId, table.stepId), index('carts_updated').on(table.updatedAt)],
);
