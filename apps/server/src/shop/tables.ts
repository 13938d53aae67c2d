import type { ShippingTable, TaxTable } from '@ruta/core/pricing';
import type { Brand, Shop } from '@ruta/core/shop';
import { integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** The one row of what holds for the whole shop. */
export const shops = sqliteTable('shop', {
  id: integer().primaryKey(),
  settings: text({ mode: 'json' }).$type<Shop>().notNull(),
  brand: text({ mode: 'json' }).$type<Brand>().notNull(),
  taxTable: text({ mode: 'json' }).$type<TaxTable>().notNull(),
  shippingTable: text({ mode: 'json' }).$type<ShippingTable>().notNull(),
  lastOrderNumber: integer().notNull(),
  lastTestNumber: integer().notNull().default(0),
});
