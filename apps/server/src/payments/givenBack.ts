import { splitByWeight } from '@ruta/core/money';
import { eq, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { isQueued } from '../base/outbox/outbox';
import { refundsOf } from '../orders/refunded';
import { type ChargeRow, linesOf } from '../orders/store';
import { charges } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import type { ChargeAnswer } from './provider';
import { noteGivenBack } from './refund';

/**
 * Writes down what was given back or is disputed at the processor itself: what is known there and not here counts on the
 * lines of its payment, in proportion to what is left of each. A dispute that was lost has taken the whole.
 */
export function hearOfMoney(
  tx: Db,
  services: Tracked,
  charge: ChargeRow,
  answer: Pick<Extract<ChargeAnswer, { state: 'captured' }>, 'refunded' | 'dispute'>,
): void {
  // What pays for nothing is on its way back already, and is no part of what was sold.
  if (isQueued(tx, `void ${charge.id}`)) return;
  if (answer.dispute && answer.dispute !== charge.dispute) tx.update(charges).set({ dispute: answer.dispute }).where(eq(charges.id, charge.id)).run();
  const told = answer.dispute === 'lost' ? charge.amount : (answer.refunded ?? 0);
  // What was noted by hand as given back elsewhere will be just this.
  const known = refundsOf(tx, charge.orderId)
    .filter(({ paymentId, state }) => paymentId === charge.paymentId && state !== 'refused')
    .reduce((sum, { amount }) => sum + amount, 0);
  const lines = linesOf(tx, charge.orderId).filter(({ paymentId, partOf }) => paymentId === charge.paymentId && partOf === null);
  const left = lines.map(({ total, refunded }) => total - refunded);
  const amount = Math.min(
    told - known,
    left.reduce((sum, each) => sum + each, 0),
  );
  if (amount <= 0) return;
  const parts = splitByWeight(amount, left);
  const given = lines.flatMap(({ id }, index) => ((parts[index] ?? 0) > 0 ? [{ id, amount: parts[index] ?? 0 }] : []));
  noteGivenBack(tx, services, charge, given, answer.dispute === 'lost' ? 'Dispute lost at the processor' : 'Given back at the processor');
}

/** Charges of which a bank asks for the money, with their orders. */
export const openDisputes = (db: Db): Array<{ orderId: string; amount: number; currency: string }> =>
  db.select({ orderId: charges.orderId, amount: charges.amount, currency: charges.currency }).from(charges).where(sql`${charges.dispute} = 'open'`).all();
