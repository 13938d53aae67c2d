import type { Condition } from '@ruta/core/conditions';
import type { Offline, Outcome, Step, StepKind } from '@ruta/core/funnel';
import type { Offer } from '@ruta/core/offers';
import type { Brand, OwnCode } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import { index, integer, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';

export const funnels = sqliteTable('funnels', {
  id: text().primaryKey(),
  name: text().notNull(),
  slug: text().notNull().unique(),
  entryId: text().notNull(),
  giftId: text(),
  /** A look of its own; without one it has the shop's. */
  brand: text({ mode: 'json' }).$type<Brand>(),
  code: text({ mode: 'json' }).$type<OwnCode>(),
  /** Counts up with every change of the map, so that two people cannot overwrite each other unseen. */
  revision: integer().notNull().default(1),
  archivedAt: integer(),
  /** Published, and shown to nobody; null while it is online. */
  offline: text({ mode: 'json' }).$type<Offline>(),
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
    sells: text({ mode: 'json' }).$type<Offer[]>().notNull(),
    sharedFrom: text({ mode: 'json' }).$type<NonNullable<Step['sharedFrom']>>(),
    /** Of whatever version it was saved in; `store.ts` brings it up. */
    draft: text({ mode: 'json' }).$type<unknown>().notNull(),
    /** Counts up with every saved draft, so that two windows cannot overwrite each other unseen. */
    revision: integer().notNull(),
    updatedAt: integer().notNull(),
    /** Taken off the map; kept with its page so that it can be put back. */
    removedAt: integer(),
  },
  (table) => [uniqueIndex('steps_slug').on(table.funnelId, table.slug).where(sql`removed_at is null`)],
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
    /** Of whatever version it was published in; `store.ts` brings it up. */
    snapshot: text({ mode: 'json' }).$type<unknown>().notNull(),
  },
  (table) => [uniqueIndex('publications_version').on(table.funnelId, table.version)],
);
