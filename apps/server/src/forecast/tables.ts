import type { Scenario } from '@ruta/core/forecast';
import { index, integer, real, sqliteTable, text } from 'drizzle-orm/sqlite-core';
import { funnels } from '../funnel/tables';

/** What somebody thought a funnel would come to, kept to be compared with what then happened. */
export const scenarios = sqliteTable(
  'scenarios',
  {
    id: text().primaryKey(),
    funnelId: text()
      .notNull()
      .references(() => funnels.id),
    name: text().notNull(),
    /** The days whose figures it was laid over. */
    from: text().notNull(),
    to: text().notNull(),
    scenario: text({ mode: 'json' }).$type<Scenario>().notNull(),
    /** Income per visitor as it was forecast then, minor units: figures of the past change with refunds, what was thought does not. */
    perVisitor: real().notNull(),
    low: real().notNull(),
    high: real().notNull(),
    createdAt: integer().notNull(),
  },
  (table) => [index('scenarios_funnel').on(table.funnelId)],
);
