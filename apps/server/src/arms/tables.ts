import type { Condition } from '@ruta/core/conditions';
import type { ArmChanges, ExperimentState, Goal, Kept, OutcomeOfRound } from '@ruta/core/experiments';
import type { Device } from '@ruta/core/facts';
import { sql } from 'drizzle-orm';
import { index, integer, primaryKey, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core';
import { funnels } from '../funnel/tables';

/** A split test as it is set; what visitors see of it stands in its rounds. */
export const experiments = sqliteTable(
  'experiments',
  {
    id: text().primaryKey(),
    funnelId: text()
      .notNull()
      .references(() => funnels.id),
    /** The stop it was begun at. */
    stepId: text().notNull(),
    state: text().$type<ExperimentState>().notNull(),
    name: text().notNull(),
    question: text().notNull().default(''),
    goal: text().$type<Goal>().notNull(),
    /** Hoped for, relative. */
    change: real().notNull(),
    audience: text({ mode: 'json' }).$type<Condition>(),
    ends: text().$type<'decision' | 'date'>().notNull(),
    lastDay: text(),
    learned: text().notNull().default(''),
    createdAt: integer().notNull(),
    updatedAt: integer().notNull(),
    endedAt: integer(),
  },
  (table) => [index('experiments_funnel').on(table.funnelId), index('experiments_state').on(table.state)],
);

/** The arms of a test as they are worked on; the first one is the original and changes nothing. */
export const arms = sqliteTable(
  'arms',
  {
    id: text().primaryKey(),
    experimentId: text()
      .notNull()
      .references(() => experiments.id),
    position: integer().notNull(),
    name: text().notNull(),
    /** In percent. */
    share: integer().notNull(),
    /** Of whatever version of pages it was made in; it is tried before it is shown. */
    changes: text({ mode: 'json' }).$type<ArmChanges>().notNull(),
    /** Counts up with every change, so that two windows cannot overwrite each other unseen. */
    revision: integer().notNull().default(1),
    /** The same of each page. */
    pageRevisions: text({ mode: 'json' }).$type<Record<string, number>>().notNull().default({}),
  },
  (table) => [index('arms_experiment').on(table.experimentId)],
);

/** An arm as it stood when its round began. */
export interface RoundArm {
  id: string;
  name: string;
  share: number;
  changes: ArmChanges;
}

/** What was asked and planned when a round began. */
export interface RoundTerms {
  goal: Goal;
  audience: Condition | null;
  ends: 'decision' | 'date';
  lastDay: string | null;
  /** Planned, absolute: a rate, or minor units per visitor. */
  difference: number;
  perArm: number;
  visitors: number;
  weeks: number | null;
}

/** What visitors were shown from one moment to another; nothing of it changes while it runs. */
export const rounds = sqliteTable(
  'rounds',
  {
    id: text().primaryKey(),
    experimentId: text()
      .notNull()
      .references(() => experiments.id),
    funnelId: text().notNull(),
    number: integer().notNull(),
    startedAt: integer().notNull(),
    endedAt: integer(),
    outcome: text().$type<OutcomeOfRound>(),
    why: text(),
    terms: text({ mode: 'json' }).$type<RoundTerms>().notNull(),
    arms: text({ mode: 'json' }).$type<RoundArm[]>().notNull(),
    /** Whoever comes to one of these stops is in the test. */
    stops: text({ mode: 'json' }).$type<string[]>().notNull(),
    /** What was published when it began; and stands for what of that is under test, so that a change of it is seen. */
    publicationId: text().notNull(),
    base: text().notNull(),
    /** The always-valid p-values of each arm so far, which never rise; numbers alone where an earlier release kept them without their direction. */
    valid: text({ mode: 'json' }).$type<Array<Kept | number>>().notNull().default([]),
    lookedAt: integer(),
    /** Whether what its visitors did is kept beside them; an earlier release counted it anew at each look. */
    isTallied: integer({ mode: 'boolean' }).notNull().default(false),
  },
  (table) => [uniqueIndex('rounds_number').on(table.experimentId, table.number), index('rounds_funnel').on(table.funnelId, table.endedAt)],
);

/** Beside the log: in which arm each visitor was first seen, and when. One row for a visitor and round. */
export const roundVisitors = sqliteTable(
  'round_visitors',
  {
    roundId: text().notNull(),
    visitorId: text().notNull(),
    armId: text().notNull(),
    firstAt: integer().notNull(),
    /** In the shop's time zone. */
    day: text().notNull(),
    device: text().$type<Device | ''>().notNull(),
    /** What they did since, as it was counted last: whether they reached the next stop, and whether they left an address (0 or 1). */
    reached: integer().notNull().default(0),
    leads: integer().notNull().default(0),
    /** What they bought in the funnel, without tax; minor units. */
    net: integer().notNull().default(0),
    refunded: integer().notNull().default(0),
    orders: integer().notNull().default(0),
    withBump: integer().notNull().default(0),
    withAddition: integer().notNull().default(0),
    refundedOrders: integer().notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.roundId, table.visitorId] }),
    // Those who brought most, of the few of all who came that bought.
    index('round_visitors_buyers').on(table.roundId, table.armId, sql`net - refunded`).where(sql`orders > 0`),
  ],
);

/** The same added up by the day and the device with which a visitor was first seen. */
export const roundDays = sqliteTable(
  'round_days',
  {
    roundId: text().notNull(),
    armId: text().notNull(),
    day: text().notNull(),
    device: text().notNull(),
    visitors: integer().notNull(),
    reached: integer().notNull(),
    leads: integer().notNull(),
    buyers: integer().notNull(),
    net: integer().notNull(),
    refunded: integer().notNull(),
    /** Of what each buyer brought: what their variance is made of. */
    squares: real().notNull(),
    orders: integer().notNull(),
    withBump: integer().notNull(),
    withAddition: integer().notNull(),
    refundedOrders: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.roundId, table.armId, table.day, table.device] })],
);
