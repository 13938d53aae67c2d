import type { PlanState, PlanTerms } from '@ruta/core/plans';
import { index, integer, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { orders } from '../orders/tables';

/** What a line goes on owing. Its payments are quoted when they fall due, from the terms it was bought at. */
export const plans = sqliteTable(
  'plans',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    lineId: text().notNull(),
    /** The kept payment method that pays it. */
    methodId: text(),
    state: text().$type<PlanState>().notNull(),
    terms: text({ mode: 'json' }).$type<PlanTerms>().notNull(),
    /** When it was bought: what every later date is counted from. Unix time in milliseconds. */
    boughtAt: integer().notNull(),
    /** How many charges are to come; null for endless. */
    left: integer(),
    /** When the next one falls due; null once there is none. */
    nextDue: integer(),
    /** When it was ended before its time, or by its last charge; null while it goes on. */
    endedAt: integer(),
  },
  (table) => [index('plans_order').on(table.orderId), index('plans_due').on(table.state, table.nextDue), index('plans_bought').on(table.boughtAt)],
);
