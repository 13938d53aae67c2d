import { planTermsOf } from '@ruta/core/plans';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import type { Services } from '../base/services';
import { codes } from '../codes/tables';
import { type OrderRow, type PaymentRow, paymentsOf } from '../orders/store';
import { plans } from './tables';

export type PlanRow = typeof plans.$inferSelect;

/** Writes what the lines of a payment go on owing, each as a plan of its own with the terms of the day. */
export function openPlans(tx: Db, { clock }: Pick<Services, 'clock'>, order: OrderRow, payment: PaymentRow): void {
  const { quote } = payment;
  if (quote.plans.length === 0) return;
  const now = clock.now();
  const code = quote.code?.applied && order.codeId ? tx.select({ terms: codes.terms }).from(codes).where(eq(codes.id, order.codeId)).get()?.terms : undefined;
  for (const agreed of planTermsOf(quote, code, earlierQuotes(tx, order.id, payment.id))) {
    const lineId = agreed.line.id;
    const summary = quote.plans.find((plan) => plan.lineId === lineId);
    if (!summary) continue;
    tx.insert(plans)
      .values({
        id: newId(clock, 'plan'),
        orderId: order.id,
        lineId,
        methodId: payment.methodId,
        state: 'active',
        terms: agreed,
        boughtAt: now,
        left: summary.charges,
        nextDue: Date.parse(summary.first.date),
      })
      .run();
  }
}

/** Quotes of an order that were paid before one of its payments. */
const earlierQuotes = (tx: Db, orderId: string, paymentId: string) =>
  paymentsOf(tx, orderId).flatMap(({ id, state, quote }) => (id !== paymentId && state === 'paid' ? [quote] : []));

/** Ends what lines would go on owing: their money was given back. */
export function endPlans(
  tx: Db,
  { clock }: Pick<Services, 'clock'>,
  orderId: string,
  lines: ReadonlyArray<{ productId: string | null; priceId: string | null }>,
): void {
  for (const plan of plansOf(tx, orderId)) {
    const { productId, priceId } = plan.terms.line;
    if (!lines.some((line) => line.productId === productId && line.priceId === (priceId ?? null))) continue;
    if (plan.state !== 'active') continue;
    tx.update(plans).set({ state: 'cancelled', nextDue: null, endedAt: clock.now() }).where(eq(plans.id, plan.id)).run();
  }
}

export function plansOf(db: Db, orderId: string): PlanRow[] {
  return db.select().from(plans).where(eq(plans.orderId, orderId)).all();
}
