import { writeCsv } from '@ruta/core/formats';
import { toDecimal } from '@ruta/core/money';
import type { Earned, Payouts, Statement } from '@ruta/core/partners';
import { remainingNet } from '@ruta/core/partners';
import { desc, eq, gt, lte, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal, notFound } from '../base/problem';
import type { Services } from '../base/services';
import { orderLines, orders } from '../orders/tables';
import { loadShop } from '../shop/store';
import { loadPartner } from './store';
import { commissions, partners, payoutParts, payouts } from './tables';

type Needs = Pick<Services, 'db' | 'clock' | 'config'>;
const MOST = 500;

/** What each partner can be paid now: what waits no more, less what was given back after it was paid out. */
function dueNow(db: Db, now: number): Payouts['due'] {
  const amount = sql<number>`sum(${commissions.amount} - ${commissions.paidOut})`;
  return db
    .select({ partnerId: commissions.partnerId, name: partners.name, email: partners.email, amount })
    .from(commissions)
    .innerJoin(partners, eq(partners.id, commissions.partnerId))
    .where(lte(commissions.heldUntil, now))
    .groupBy(commissions.partnerId)
    .having(gt(amount, 0))
    .orderBy(partners.name)
    .all();
}

const totalOf = (due: Payouts['due']): number => due.reduce((sum, { amount }) => sum + amount, 0);

export function payoutsOf({ db, clock }: Needs): Payouts {
  const due = dueNow(db, clock.now());
  const parts = sql<number>`(SELECT count(*) FROM payout_parts p WHERE p.payout_id = payouts.id)`;
  const done = db
    .select({ id: payouts.id, at: payouts.at, total: payouts.total, partners: parts })
    .from(payouts)
    .orderBy(desc(payouts.at), desc(payouts.id))
    .all();
  return { due, total: totalOf(due), done };
}

/**
 * Counts everything that is due as paid out, and keeps to whom how much.
 * @param shown the total that somebody saw: nothing else is paid out
 * @throws Refusal 409 if something has changed since
 */
export function payOut({ db, clock }: Needs, shown: number): { id: string } {
  return db.transaction((tx) => {
    const now = clock.now();
    const due = dueNow(tx, now);
    const total = totalOf(due);
    if (total !== shown) throw fieldRefusal('total', 'What is due has changed meanwhile. Look at it again; nothing was counted as paid.', 409);
    const id = newId(clock, 'payout');
    tx.insert(payouts).values({ id, at: now, total }).run();
    for (const { partnerId, amount } of due) {
      tx.insert(payoutParts).values({ payoutId: id, partnerId, amount }).run();
      tx.update(commissions)
        .set({ paidOut: sql`${commissions.amount}` })
        .where(sql`${commissions.partnerId} = ${partnerId} AND ${commissions.heldUntil} <= ${now}`)
        .run();
    }
    return { id };
  });
}

/** What a bank or a payment service is given: one line a partner. @throws Refusal 404 if there was no such payout */
export function payoutCsv({ db }: Needs, id: string): string {
  const { currency } = loadShop(db).settings;
  if (!db.select().from(payouts).where(eq(payouts.id, id)).get()) throw notFound('This payout');
  const parts = db
    .select({ name: partners.name, email: partners.email, code: partners.code, amount: payoutParts.amount })
    .from(payoutParts)
    .innerJoin(partners, eq(partners.id, payoutParts.partnerId))
    .where(eq(payoutParts.payoutId, id))
    .orderBy(partners.name)
    .all();
  return writeCsv(
    ['Partner', 'E-mail', 'Amount', 'Currency', 'Reference'],
    parts.map(({ name, email, code, amount }) => [name, email, toDecimal(amount, currency), currency, `Commission ${code} ${id}`]),
  );
}

/** Everything a partner earned, the latest first. */
function earnedBy(db: Db, partnerId: string, most: number): Earned[] {
  const rows = db
    .select({ commission: commissions, line: orderLines, number: orders.number })
    .from(commissions)
    .innerJoin(orderLines, eq(orderLines.id, commissions.lineId))
    .innerJoin(orders, eq(orders.id, commissions.orderId))
    .where(eq(commissions.partnerId, partnerId))
    .orderBy(desc(commissions.at), desc(commissions.id))
    .limit(most)
    .all();
  return rows.map(({ commission: { id, at, orderId, tier, rate, amount, paidOut, heldUntil }, line, number }) => ({
    ...{ id, at, orderId, tier, rate, amount, paidOut, heldUntil },
    orderNumber: number,
    goods: line.name,
    base: remainingNet(line),
  }));
}

/** What a partner earned, what of it was paid out, and whom they recruited. @throws Refusal 404 if there is no such partner */
export function statementOf(services: Needs, partnerId: string): Statement {
  const { db } = services;
  const row = loadPartner(services, partnerId);
  return {
    row,
    earned: earnedBy(db, partnerId, MOST),
    payouts: db
      .select({ id: payouts.id, at: payouts.at, amount: payoutParts.amount })
      .from(payoutParts)
      .innerJoin(payouts, eq(payouts.id, payoutParts.payoutId))
      .where(eq(payoutParts.partnerId, partnerId))
      .orderBy(desc(payouts.at))
      .all(),
    recruited: db
      .select({ id: partners.id, name: partners.name })
      .from(partners)
      .where(sql`json_extract(${partners.document}, '$.recruitedBy') = ${partnerId}`)
      .orderBy(partners.name)
      .all(),
  };
}

/** A partner's statement as a file, without anything of their buyers but the order's number. */
export function statementCsv(services: Needs, partnerId: string): string {
  const { db } = services;
  const { currency } = loadShop(db).settings;
  loadPartner(services, partnerId);
  const money = (amount: number) => toDecimal(amount, currency);
  const day = (at: number) => new Date(at).toISOString().slice(0, 10);
  return writeCsv(
    ['Day', 'Order', 'Goods', 'Tier', 'Of', 'Rate', 'Commission', 'Paid out', 'Held until', 'Currency'],
    earnedBy(db, partnerId, -1).map(({ at, orderNumber, goods, tier, base, rate, amount, paidOut, heldUntil }) => [
      day(at),
      String(orderNumber ?? ''),
      goods,
      String(tier),
      money(base),
      rate.kind === 'percent' ? `${rate.percent} %` : `${money(rate.amount)} each`,
      money(amount),
      money(paidOut),
      day(heldUntil),
      currency,
    ]),
  );
}
