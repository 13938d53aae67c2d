import type { Condition, Graph, Outcome, PageDocument, StepKind } from '@ruta/core';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { products } from '../catalog/tables';

export const funnels = sqliteTable('funnels', {
  id: text().primaryKey(),
  name: text().notNull(),
  slug: text().notNull().unique(),
  entryId: text().notNull(),
  giftId: text().references(() => products.id),
  archivedAt: integer(),
  createdAt: integer().notNull(),
  updatedAt: integer().notNull(),
});

export const steps = sqliteTable(
  'steps',
  {
    id: text().primaryKey(),
    funnelId: text()
      .notNull()
      .references(() => funnels.id),
    kind: text().$type<StepKind>().notNull(),
    name: text().notNull(),
    slug: text().notNull(),
    productId: text().references(() => products.id),
    draft: text({ mode: 'json' }).$type<PageDocument>().notNull(),
    /** Counts up with every saved draft, so that two windows cannot overwrite each other unseen. */
    revision: integer().notNull(),
    updatedAt: integer().notNull(),
  },
  (table) => [uniqueIndex('steps_slug').on(table.funnelId, table.slug)],
);

export const routes = sqliteTable(
  'routes',
  {
    id: text().primaryKey(),
    funnelId: text()
      .notNull()
      .references(() => funnels.id),
    fromStepId: text()
      .notNull()
      .references(() => steps.id),
    outcome: text().$type<Outcome>().notNull(),
    condition: text({ mode: 'json' }).$type<Condition>(),
    priority: integer().notNull(),
    toStepId: text()
      .notNull()
      .references(() => steps.id),
  },
  (table) => [index('routes_funnel').on(table.funnelId)],
);

/** What visitors of a funnel see: everything as it stood when it was published. */
export interface Snapshot {
  name: string;
  slug: string;
  giftId: string | null;
  graph: Graph;
  pages: Record<string, PageDocument>;
}

export const publications = sqliteTable(
  'publications',
  {
    id: text().primaryKey(),
    funnelId: text()
      .notNull()
      .references(() => funnels.id),
    version: integer().notNull(),
    at: integer().notNull(),
    userId: text(),
    snapshot: text({ mode: 'json' }).$type<Snapshot>().notNull(),
  },
  (table) => [uniqueIndex('publications_version').on(table.funnelId, table.version)],
);
