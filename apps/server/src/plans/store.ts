import { PlanTermsSchema } from '@ruta/core/plans';
import type { StoredQuote } from '@ruta/core/pricing';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import type { Services } from '../base/services';
import { codes } from '../codes/tables';
import type { OrderRow, PaymentRow } from '../orders/store';
import { plans } from './tables';

export type PlanRow = typeof plans.$inferSelect;

/** Writes what the lines of a payment go on owing, each as a plan of its own with the terms of the day. */
export function openPlans(tx: Db, { clock }: Pick<Services, 'clock'>, order: OrderRow, payment: PaymentRow): void {
  const { quote } = payment;
  if (quote.plans.length === 0) return;
  const now = clock.now();
  const code = quote.code?.applied && order.codeId ? tx.select({ terms: codes.terms }).from(codes).where(eq(codes.id, order.codeId)).get()?.terms : undefined;
  for (const { lineId, charges, first } of quote.plans) {
    const terms = termsOf(order, quote, lineId);
    if (!terms) continue;
    tx.insert(plans)
      .values({
        id: newId(clock, 'plan'),
        orderId: order.id,
        lineId,
        methodId: payment.methodId,
        state: 'active',
        terms: { ...terms, code: code?.payments === 'every' ? code : null },
        boughtAt: now,
        left: charges,
        nextDue: Date.parse(first.date),
      })
      .run();
  }
}

/** The line that was quoted, as it is quoted again when a payment falls due; undefined if it has no plan. */
function termsOf(order: Pick<OrderRow, 'buyer'>, quote: StoredQuote, lineId: string) {
  const line = quote.lines.find((candidate) => candidate.lineId === lineId && candidate.part !== 'set-up fee');
  if (!line) return undefined;
  const { taxNumber, region } = order.buyer;
  // What an offer took off is part of what each period, or all instalments, were sold at.
  const price = line.unit === line.currentUnit ? line.price : { ...line.price, regular: line.unit, sale: undefined };
  return PlanTermsSchema.parse({
    line: { ...line, id: lineId, price, weight: line.quantity === 0 ? 0 : line.weight / line.quantity },
    buyer: { country: quote.taxCountry, ...(region ? { region } : {}), ...(taxNumber ? { taxNumber } : {}) },
  });
}

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
