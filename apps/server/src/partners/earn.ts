import { commissionOf, earningRate, isSameMailbox } from '@ruta/core/partners';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import type { Services } from '../base/services';
import { type LineRow, linesOf, type OrderRow, type PaymentRow } from '../orders/store';
import { findPartner, loadProgram } from './store';
import { commissions } from './tables';

const DAY_MS = 24 * 60 * 60 * 1000;

/**
 * Writes what the lines of a payment that was just paid earn whoever brought the buyer, and whoever recruited them, at the
 * rates of the day; in the caller's transaction. Test orders earn nothing.
 */
export function earnCommissions(
  tx: Db,
  services: Pick<Services, 'clock'>,
  order: Pick<OrderRow, 'id' | 'mode' | 'partnerId' | 'email'>,
  payment: PaymentRow,
): void {
  const found = order.partnerId && order.mode === 'live' ? findPartner(tx, order.partnerId) : undefined;
  if (!found?.document.isOn) return;
  const program = loadProgram(tx);
  const named = found.document.recruitedBy ? findPartner(tx, found.document.recruitedBy) : undefined;
  // Who recruited a partner earns nothing by what they buy themselves.
  const recruiter = named && !isSameMailbox(named.email, order.email) ? named : undefined;
  const isLater = payment.kind === 'instalment' || payment.kind === 'renewal';
  const now = services.clock.now();
  for (const line of linesOf(tx, order.id)) {
    if (line.paymentId !== payment.id || line.role === 'shipping' || line.partOf !== null || line.total === 0) continue;
    const rate = earningRate({ productId: line.productId, priceId: line.priceId, role: line.role, isLater }, { program, rules: found.document.rules });
    if (!rate) continue;
    const write = (partnerId: string, tier: 1 | 2, at: typeof rate) =>
      tx
        .insert(commissions)
        .values({
          id: newId(services.clock, 'commission'),
          partnerId,
          tier,
          orderId: order.id,
          paymentId: payment.id,
          lineId: line.id,
          rate: at,
          amount: commissionOf(at, earningLine(line)),
          at: now,
          heldUntil: now + program.holdingDays * DAY_MS,
        })
        .onConflictDoNothing()
        .run();
    write(found.id, 1, rate);
    if (recruiter?.document.isOn && program.secondTierPercent > 0) write(recruiter.id, 2, { kind: 'percent', percent: program.secondTierPercent });
  }
}

/** Reckons what an order has earned anew on what remains of its lines, after something was given back or a refund was refused. */
export function recountCommissions(tx: Db, orderId: string): void {
  const earned = tx.select().from(commissions).where(eq(commissions.orderId, orderId)).all();
  if (earned.length === 0) return;
  const lines = new Map(linesOf(tx, orderId).map((line) => [line.id, line]));
  for (const { id, lineId, rate } of earned) {
    const line = lines.get(lineId);
    if (line)
      tx.update(commissions)
        .set({ amount: commissionOf(rate, earningLine(line)) })
        .where(eq(commissions.id, id))
        .run();
  }
}

const earningLine = ({ part, quantity, total, net, refunded }: LineRow) => ({
  part: part === 'set-up fee' ? ('set-up fee' as const) : ('whole' as const),
  quantity,
  total,
  net,
  refunded,
});
