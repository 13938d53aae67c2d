import type { LineRole } from '@ruta/core/catalog';
import type { Campaign, Device } from '@ruta/core/facts';
import type { Mode } from '@ruta/core/shop';
import type { EventKind } from '@ruta/core/tracking';
import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';

export const visitors = sqliteTable('visitors', {
  id: text().primaryKey(),
  contactId: text(),
  firstAt: integer().notNull(),
  lastAt: integer().notNull(),
  visitId: text().notNull(),
  /** How many visits there were, this one included; more than one is somebody who came back. */
  visits: integer().notNull().default(1),
  device: text().$type<Device>().notNull(),
  firstCampaign: text({ mode: 'json' }).$type<Campaign>(),
  lastCampaign: text({ mode: 'json' }).$type<Campaign>(),
  /** What was typed of themselves in this browser, to be filled in again here and nowhere else. */
  typed: text({ mode: 'json' }).$type<TypedBuyer>(),
});

/** What somebody typed of themselves. */
export interface TypedBuyer {
  email?: string | undefined;
  firstName?: string | undefined;
  lastName?: string | undefined;
  country?: string | undefined;
}

/** What happened, written once. Order and contact ids are kept without a foreign key: the log outlives what it tells of. */
export const events = sqliteTable(
  'events',
  {
    id: text().primaryKey(),
    at: integer().notNull(),
    kind: text().$type<EventKind>().notNull(),
    mode: text().$type<Mode>().notNull(),
    visitorId: text(),
    visitId: text(),
    funnelId: text(),
    stepId: text(),
    orderId: text(),
    contactId: text(),
    device: text().$type<Device>(),
    campaign: text({ mode: 'json' }).$type<Campaign>(),
    data: text({ mode: 'json' }).$type<Record<string, unknown>>().notNull(),
  },
  (table) => [
    // Most events are views of people nobody knows yet; those need no place in these two.
    index('events_order').on(table.orderId).where(sql`order_id is not null`),
    index('events_contact').on(table.contactId).where(sql`contact_id is not null`),
    index('events_visitor').on(table.visitorId),
  ],
);

/** Roll-up beside the log: when each visitor first came to a step and first reached its goal. Can be rebuilt from the log. */
export const stepVisitors = sqliteTable(
  'step_visitors',
  {
    stepId: text().notNull(),
    visitorId: text().notNull(),
    funnelId: text().notNull(),
    firstAt: integer().notNull(),
    goalAt: integer(),
  },
  (table) => [primaryKey({ columns: [table.stepId, table.visitorId] }), index('step_visitors_first').on(table.funnelId, table.firstAt)],
);

/**
 * Roll-up beside the log: which offers the buyer of an order was shown, and what became of each. From the first showing a
 * deadline of so many minutes runs. Can be rebuilt from the log.
 */
export const offerShowings = sqliteTable(
  'offer_showings',
  {
    offerId: text().notNull(),
    orderId: text().notNull(),
    funnelId: text().notNull(),
    stepId: text().notNull(),
    role: text().$type<LineRole>().notNull(),
    mode: text().$type<Mode>().notNull(),
    shownAt: integer().notNull(),
    takenAt: integer(),
    declinedAt: integer(),
    /** Goods without tax and shipping that were taken, minor units. */
    value: integer().notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.offerId, table.orderId] }),
    index('offer_showings_funnel').on(table.funnelId, table.shownAt),
    index('offer_showings_order').on(table.orderId),
  ],
);

/** Roll-up beside the log: when each visitor first went along a route of the map. Can be rebuilt from the log. */
export const routeVisitors = sqliteTable(
  'route_visitors',
  { routeId: text().notNull(), visitorId: text().notNull(), funnelId: text().notNull(), firstAt: integer().notNull() },
  (table) => [primaryKey({ columns: [table.routeId, table.visitorId] }), index('route_visitors_first').on(table.funnelId, table.firstAt)],
);
