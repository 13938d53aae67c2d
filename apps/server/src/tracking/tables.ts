import type { LineRole } from '@ruta/core/catalog';
import type { ArmTag } from '@ruta/core/experiments';
import type { Campaign, Device } from '@ruta/core/facts';
import type { AskedConsent, GivenConsent, Mode } from '@ruta/core/shop';
import type { ClickIds, EventKind } from '@ruta/core/tracking';
import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';

export const visitors = sqliteTable('visitors', {
  id: text().primaryKey(),
  /** As which visitor this browser counts in the figures, where it was led here from another domain or a page elsewhere; null for itself. */
  countsAs: text(),
  contactId: text(),
  firstAt: integer().notNull(),
  lastAt: integer().notNull(),
  visitId: text().notNull(),
  /** How many visits there were, this one included; more than one is somebody who came back. */
  visits: integer().notNull().default(1),
  device: text().$type<Device>().notNull(),
  firstCampaign: text({ mode: 'json' }).$type<Campaign>(),
  lastCampaign: text({ mode: 'json' }).$type<Campaign>(),
  /** What ad platforms put into the address, of the first visit and of the latest that had it. */
  firstClicks: text({ mode: 'json' }).$type<ClickIds>(),
  lastClicks: text({ mode: 'json' }).$type<ClickIds>(),
  /** The computer's address and the browser's own name: kept only while some rule tells a platform of them. */
  address: text(),
  agent: text(),
  /** What was answered when they were asked; null for no answer. */
  consent: text({ mode: 'json' }).$type<GivenConsent>(),
  /** Whose link they came by last, and when; null for nobody's. */
  partner: text({ mode: 'json' }).$type<CameBy>(),
  /** What was typed of themselves in this browser, to be filled in again here and nowhere else. */
  typed: text({ mode: 'json' }).$type<TypedBuyer>(),
});

/** The partner by whose link somebody came, Unix time in milliseconds. */
export interface CameBy {
  id: string;
  at: number;
}

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
    publicationId: text(),
    orderId: text(),
    contactId: text(),
    device: text().$type<Device>(),
    campaign: text({ mode: 'json' }).$type<Campaign>(),
    firstCampaign: text({ mode: 'json' }).$type<Campaign>(),
    clicks: text({ mode: 'json' }).$type<ClickIds>(),
    /** The arms of running tests that it happened in; null outside of tests. */
    arms: text({ mode: 'json' }).$type<ArmTag[]>(),
    mayTell: integer({ mode: 'boolean' }).notNull().default(true),
    data: text({ mode: 'json' }).$type<Record<string, unknown>>().notNull(),
  },
  (table) => [
    // Most events are views of people nobody knows yet; those need no place in these two.
    index('events_order').on(table.orderId).where(sql`order_id is not null`),
    index('events_contact').on(table.contactId).where(sql`contact_id is not null`),
    index('events_visitor').on(table.visitorId),
  ],
);

/**
 * Who a browser is on pages elsewhere. That id lies open there, so that it is another one than the visitor's own, and stands
 * for them only until they have arrived here.
 */
export const elsewhereVisitors = sqliteTable('elsewhere_visitors', {
  id: text().primaryKey(),
  visitorId: text().notNull(),
  arrivedAt: integer(),
});

/** Every answer to the question for consent, kept as its proof. */
export const consents = sqliteTable(
  'consents',
  {
    id: text().primaryKey(),
    visitorId: text().notNull(),
    at: integer().notNull(),
    statistics: integer({ mode: 'boolean' }).notNull(),
    marketing: integer({ mode: 'boolean' }).notNull(),
    /** Fingerprint of the wording that was answered. */
    wording: text().notNull(),
    page: text().notNull(),
  },
  (table) => [index('consents_at').on(table.at), index('consents_visitor').on(table.visitorId)],
);

/** The wordings that were ever answered, as they stood. */
export const consentWordings = sqliteTable('consent_wordings', {
  id: text().primaryKey(),
  at: integer().notNull(),
  settings: text({ mode: 'json' }).$type<AskedConsent>().notNull(),
});

/**
 * Roll-up beside the log: when each visitor first came to a place, with what was known of them then, and first reached its
 * goal. Places are steps, routes, funnels, and the shop as a whole. Can be rebuilt from the log: a generation is one
 * rebuild, and figures are read of the current one alone.
 */
export const placeVisitors = sqliteTable(
  'place_visitors',
  {
    generation: integer().notNull(),
    placeId: text().notNull(),
    visitorId: text().notNull(),
    firstAt: integer().notNull(),
    goalAt: integer(),
    leadAt: integer(),
    /** In the shop's time zone: `2026-03-31`. */
    day: text().notNull(),
    device: text().notNull(),
    source: text().notNull(),
    campaign: text().notNull(),
  },
  (table) => [primaryKey({ columns: [table.generation, table.placeId, table.visitorId] })],
);

/**
 * The same counted by the day of the first view. A visitor counts once at a place and on one day, so that days add up to
 * any period.
 */
export const placeDays = sqliteTable(
  'place_days',
  {
    generation: integer().notNull(),
    placeId: text().notNull(),
    day: text().notNull(),
    device: text().notNull(),
    source: text().notNull(),
    campaign: text().notNull(),
    came: integer().notNull(),
    reached: integer().notNull(),
    leads: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.generation, table.placeId, table.day, table.device, table.source, table.campaign] })],
);

/** The one row of which generation is read, and by which days it counts. */
export const rollUpState = sqliteTable('roll_up_state', {
  id: integer().primaryKey(),
  generation: integer().notNull(),
  timeZone: text().notNull(),
  rebuiltAt: integer(),
});

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
