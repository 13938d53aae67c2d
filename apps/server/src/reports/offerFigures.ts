import { conversionRate, type OfferFigures, type RevenueByRole } from '@ruta/core/reports';
import { and, eq, gte, inArray, lt, ne, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { isPaid } from '../orders/store';
import { orderLines, orders, payments } from '../orders/tables';
import { offerShowings } from '../tracking/tables';

/**
 * What became of each bump and offer of a funnel, of those shown in a period; test orders are left out.
 * @param from Unix time in milliseconds, included
 * @param until Unix time in milliseconds, excluded
 */
export function offerFigures(db: Db, funnelId: string, from: number, until: number): OfferFigures[] {
  return db
    .select({
      offerId: offerShowings.offerId,
      stepId: offerShowings.stepId,
      role: offerShowings.role,
      shown: sql<number>`count(*)`,
      taken: sql<number>`count(${offerShowings.takenAt})`,
      value: sql<number>`coalesce(sum(${offerShowings.value}), 0)`,
    })
    .from(offerShowings)
    .where(and(eq(offerShowings.funnelId, funnelId), eq(offerShowings.mode, 'live'), gte(offerShowings.shownAt, from), lt(offerShowings.shownAt, until)))
    .groupBy(offerShowings.offerId, offerShowings.stepId, offerShowings.role)
    .all()
    .map((row) => ({ ...row, rate: conversionRate(row.shown, row.taken) }));
}

/** The lines of a funnel's live orders that were paid in a period, without later charges. */
const soldLines = (funnelId: string, from: number, until: number) =>
  and(
    eq(orders.funnelId, funnelId),
    isPaid,
    eq(orders.mode, 'live'),
    gte(orders.paidAt, from),
    lt(orders.paidAt, until),
    inArray(payments.kind, ['first', 'addition']),
    ne(orderLines.role, 'shipping'),
  );

/** What the orders of a funnel paid in a period came to by role: what was bought on the day, without tax, shipping and later charges. */
export function revenueByRole(db: Db, funnelId: string, from: number, until: number): RevenueByRole {
  const rows = db
    .select({ role: orderLines.role, net: sql<number>`sum(${orderLines.net})` })
    .from(orderLines)
    .innerJoin(orders, eq(orders.id, orderLines.orderId))
    .innerJoin(payments, eq(payments.id, orderLines.paymentId))
    .where(soldLines(funnelId, from, until))
    .groupBy(orderLines.role)
    .all();
  const of = (role: string) => rows.find((row) => row.role === role)?.net ?? 0;
  return { main: of('main'), bump: of('bump'), upsell: of('upsell'), downsell: of('downsell') };
}
