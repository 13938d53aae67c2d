import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { files } from '../files/tables';
import { orderLines, orders } from '../orders/tables';

/** A buyer's right to fetch a file. */
export const grants = sqliteTable(
  'grants',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    lineId: text()
      .notNull()
      .references(() => orderLines.id),
    fileId: text()
      .notNull()
      .references(() => files.id),
    downloads: integer().notNull(),
    /** Null is without limit. */
    maxDownloads: integer(),
    /** Unix time in milliseconds after which it is not handed out any more; null is without limit. */
    until: integer(),
  },
  (table) => [index('grants_order').on(table.orderId)],
);
