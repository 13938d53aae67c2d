import { type OrderState, refundedNet } from '@ruta/core/orders';
import { eq, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { findOrder, linesOf } from './store';
import { orderLines, orders, refunds } from './tables';

export type RefundRow = typeof refunds.$inferSelect;

/** What was given back of an order or is about to be, the latest last. */
export const refundsOf = (db: Db, orderId: string): RefundRow[] => db.select().from(refunds).where(eq(refunds.orderId, orderId)).orderBy(sql`rowid`).all();

export const findRefund = (db: Db, id: string): RefundRow | undefined => db.select().from(refunds).where(eq(refunds.id, id)).get();

/** Counts amounts as given back on their lines, or no more if they are below zero, and says so in the order's state. */
export function countRefunded(tx: Db, orderId: string, lines: ReadonlyArray<{ id: string; amount: number }>): OrderState {
  for (const { id, amount } of lines) {
    const line = tx.select().from(orderLines).where(eq(orderLines.id, id)).get();
    if (!line) throw new Error(`There is no line ${id}.`);
    const refunded = line.refunded + amount;
    tx.update(orderLines)
      .set({ refunded, refundedNet: refundedNet({ ...line, refunded }) })
      .where(eq(orderLines.id, id))
      .run();
  }
  const now = linesOf(tx, orderId);
  const left = now.reduce((sum, { total, refunded }) => sum + total - refunded, 0);
  const returned = now.reduce((sum, { refunded }) => sum + refunded, 0);
  const state: OrderState = returned === 0 ? 'paid' : left === 0 ? 'refunded' : 'part-refunded';
  if (findOrder(tx, orderId)?.state !== state) tx.update(orders).set({ state }).where(eq(orders.id, orderId)).run();
  return state;
}
