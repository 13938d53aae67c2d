import { averageOrderValue, conversionRate, type FunnelFigures } from '@ruta/core/reports';
import { and, eq, gte, lt, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { isPaid } from '../orders/store';
import { orders } from '../orders/tables';
import { stepVisitors } from '../tracking/tables';
import { offerFigures, peopleOnRoutes, revenueByRole, revenueByStep } from './offerFigures';

const DAY_MS = 24 * 60 * 60 * 1000;
/** Of how many days figures are shown where nobody asks for others. */
export const DEFAULT_DAYS = 30;

/** Figures of a funnel from so many days ago until now. */
export function figuresSince(
  { db, clock }: Pick<Services, 'db' | 'clock'>,
  funnel: { id: string; entryId: string },
  stepIds: string[],
  days: number,
): FunnelFigures {
  return funnelFigures(db, funnel.id, funnel.entryId, stepIds, clock.now() - days * DAY_MS, clock.now() + 1);
}

/** People who came into a funnel in a period, at whatever step: who arrives at the checkout by a link has entered it too. */
function visitorsOf(db: Db, funnelId: string, from: number, until: number): number {
  const row = db.get<{ n: number }>(
    sql`SELECT count(*) AS n FROM (SELECT min(${stepVisitors.firstAt}) AS first FROM ${stepVisitors} WHERE ${stepVisitors.funnelId} = ${funnelId} GROUP BY ${stepVisitors.visitorId}) WHERE first >= ${from} AND first < ${until}`,
  );
  return row?.n ?? 0;
}

/**
 * Figures of a funnel in a period: people are counted on the day of their first view of a step, orders on the day
 * they were paid. Test orders and orders of value 0 are no sales.
 * @param from Unix time in milliseconds, included
 * @param until Unix time in milliseconds, excluded
 */
export function funnelFigures(db: Db, funnelId: string, entryId: string, stepIds: string[], from: number, until: number): FunnelFigures {
  const counted = db
    .select({ stepId: stepVisitors.stepId, came: sql<number>`count(*)`, reached: sql<number>`count(${stepVisitors.goalAt})` })
    .from(stepVisitors)
    .where(and(eq(stepVisitors.funnelId, funnelId), gte(stepVisitors.firstAt, from), lt(stepVisitors.firstAt, until)))
    .groupBy(stepVisitors.stepId)
    .all();
  const byStep = new Map(counted.map((row) => [row.stepId, row]));
  const paid = db
    .select({ netGoods: orders.netGoods, total: orders.total, contactId: orders.contactId })
    .from(orders)
    .where(and(eq(orders.funnelId, funnelId), isPaid, eq(orders.mode, 'live'), gte(orders.paidAt, from), lt(orders.paidAt, until)))
    .all();
  const sales = paid.filter((order) => order.total > 0);
  const netRevenue = sales.reduce((sum, order) => sum + order.netGoods, 0);
  const entry = byStep.get(entryId);
  const visitors = visitorsOf(db, funnelId, from, until);
  const byRole = revenueByRole(db, funnelId, from, until);
  return {
    from,
    until,
    steps: stepIds.map((stepId) => {
      const { came, reached } = byStep.get(stepId) ?? { came: 0, reached: 0 };
      return { stepId, came, reached, rate: conversionRate(came, reached) };
    }),
    visitors,
    leads: entry?.reached ?? 0,
    buyers: new Set(sales.map((order) => order.contactId)).size,
    orders: sales.length,
    netRevenue,
    averageOrder: averageOrderValue(sales.map((order) => order.netGoods)),
    revenuePerVisitor: visitors === 0 ? null : netRevenue / visitors,
    routes: peopleOnRoutes(db, funnelId, from, until),
    revenueByStep: revenueByStep(db, funnelId, from, until),
    offers: offerFigures(db, funnelId, from, until),
    byRole,
    averageWithout: sales.length === 0 ? null : Math.round(byRole.main / sales.length),
    perVisitorWithout: visitors === 0 ? null : byRole.main / visitors,
  };
}
