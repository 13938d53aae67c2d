import type { Price, ProductKind, TaxClass } from '@ruta/core';
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { files } from '../files/tables';

export const products = sqliteTable(
  'products',
  {
    id: text().primaryKey(),
    name: text().notNull(),
    label: text().notNull(),
    description: text().notNull(),
    kind: text().$type<ProductKind>().notNull(),
    taxClass: text().$type<TaxClass>().notNull(),
    price: text({ mode: 'json' }).$type<Price>().notNull(),
    pictureId: text().references(() => files.id),
    archivedAt: integer(),
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [index('products_archived').on(table.archivedAt)],
);

export const productFiles = sqliteTable(
  'product_files',
  {
    productId: text()
      .notNull()
      .references(() => products.id),
    fileId: text()
      .notNull()
      .references(() => files.id),
    position: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.productId, table.fileId] })],
);
