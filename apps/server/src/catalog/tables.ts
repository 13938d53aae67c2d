import type { Confirmation, Delivery, Product, ProductKind, ProductStatus, TaxClass } from '@ruta/core/catalog';
import type { Mode } from '@ruta/core/shop';
import { index, integer, primaryKey, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { files } from '../files/tables';

const json = <T>() => text({ mode: 'json' }).$type<T>().notNull();

export const products = sqliteTable(
  'products',
  {
    id: text().primaryKey(),
    name: text().notNull(),
    label: text().notNull(),
    /** Simple HTML, cleaned before it is kept. */
    description: text().notNull(),
    included: json<string[]>(),
    kind: text().$type<ProductKind>().notNull(),
    taxClass: text().$type<TaxClass>().notNull(),
    status: text().$type<ProductStatus>().notNull(),
    /** The first one leads. */
    pictureIds: json<string[]>(),
    previewUrl: text().notNull(),
    refundPolicy: text().notNull(),
    contactEmail: text().notNull(),
    confirmation: json<Confirmation>(),
    buyAgain: integer({ mode: 'boolean' }).notNull(),
    alone: integer({ mode: 'boolean' }).notNull(),
    categories: json<string[]>(),
    tags: json<string[]>(),
    editions: json<Product['editions']>(),
    bundle: json<Product['bundle']>(),
    delivery: json<Delivery>(),
    closesAt: integer(),
    leadTo: json<Product['leadTo']>(),
    archivedAt: integer(),
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [index('products_created').on(table.archivedAt, table.createdAt, table.id), index('products_name').on(table.archivedAt, table.name, table.id)],
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
    /** Id of the edition or price the file comes with; null for all. */
    only: text(),
  },
  (table) => [primaryKey({ columns: [table.productId, table.fileId] })],
);

/** Licence keys: pasted ones wait here until they are sold; generated ones are written when they are. */
export const licenceKeys = sqliteTable(
  'licence_keys',
  {
    id: text().primaryKey(),
    productId: text()
      .notNull()
      .references(() => products.id),
    value: text().notNull(),
    /** The order and line it was given to; null while it waits. Without a foreign key, since lines point at products. */
    orderId: text(),
    lineId: text(),
    createdAt: integer().notNull(),
  },
  (table) => [
    // A key is never kept, and so never given, twice.
    uniqueIndex('licence_keys_value').on(table.productId, table.value),
    index('licence_keys_order').on(table.orderId),
  ],
);

/** How many of an edition were sold, kept beside the orders; a test makes it anew from their lines, which gives the same. */
export const editionSales = sqliteTable(
  'edition_sales',
  { editionId: text().notNull(), mode: text().$type<Mode>().notNull(), sold: integer().notNull() },
  (table) => [primaryKey({ columns: [table.editionId, table.mode] })],
);

/** What a cart keeps for its buyer for some minutes while they pay: places of an edition, or a use of a code. */
export const holds = sqliteTable(
  'holds',
  {
    cartId: text().notNull(),
    kind: text().$type<'stock' | 'code'>().notNull(),
    /** Id of the edition or the code. */
    subjectId: text().notNull(),
    quantity: integer().notNull(),
    /** Who a code is held for. */
    email: text(),
    until: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.cartId, table.kind, table.subjectId] }), index('holds_subject').on(table.subjectId, table.until)],
);
