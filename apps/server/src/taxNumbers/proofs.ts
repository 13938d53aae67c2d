import { and, asc, eq, inArray, lt } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { orders, taxNumberProofs } from '../orders/tables';
import { loadShop } from '../shop/store';
import type { AsksRegister } from './register';

const AGAIN_MS = 10 * 60_000;
const AT_ONCE = 20;

/** Asks again for the numbers of orders that were sold without tax while the register did not answer. */
export async function askAgain(services: Pick<Services, 'db' | 'clock'> & AsksRegister): Promise<void> {
  const { db, clock, taxRegister } = services;
  const due = db
    .select()
    .from(taxNumberProofs)
    .where(and(eq(taxNumberProofs.state, 'silent'), lt(taxNumberProofs.askedAt, clock.now() - AGAIN_MS)))
    .orderBy(asc(taxNumberProofs.askedAt))
    .limit(AT_ONCE)
    .all();
  for (const { orderId, number } of due) {
    const answer = await taxRegister.consult(number, loadShop(db).settings.country, null);
    const { state, name, address, reference, at } = answer ?? { state: 'silent' as const, name: '', address: '', reference: '', at: clock.now() };
    db.update(taxNumberProofs).set({ state, name, address, reference, askedAt: at }).where(eq(taxNumberProofs.orderId, orderId)).run();
  }
}

/** Orders without tax whose buyer's number the register does not know, or has not been able to say anything of yet. */
export const unproved = (db: Db) =>
  db
    .select({ orderId: orders.id, orderNumber: orders.number, number: taxNumberProofs.number, state: taxNumberProofs.state })
    .from(taxNumberProofs)
    .innerJoin(orders, eq(orders.id, taxNumberProofs.orderId))
    .where(and(inArray(taxNumberProofs.state, ['silent', 'unknown']), inArray(orders.state, ['paid', 'part-refunded'])))
    .orderBy(asc(taxNumberProofs.askedAt))
    .all();
