import type { Consequence } from '@ruta/core/orders';
import { isSale } from '@ruta/core/orders';
import { and, eq, isNull } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import { notFound, Refusal } from '../base/problem';
import { whyUnwritten } from '../base/writes';
import { deliver } from '../delivery/deliver';
import { mailedOrder, queueAdditionReceipt, queueReceipt } from '../delivery/receipt';
import type { LiveServices } from '../funnel/live';
import { letterhead } from '../mail/letterhead';
import { saleMail } from '../mail/saleMail';
import { awaitsOffer } from '../offers/onward';
import { type LineRow, linesOf, loadOrder, loadPayment, type OrderRow, type PaymentRow } from '../orders/store';
import { orderTroubles } from '../orders/tables';
import { earnCommissions } from '../partners/earn';
import { endPlans, openPlans } from '../plans/store';
import type { Tracked } from '../tracking/recorder';
import { makeEvent } from '../tracking/visitor';
import { visitorOf } from '../tracking/visitorOf';
import { recordForOrder } from './recordForOrder';

type Needs = Tracked & LiveServices;

/** A payment whose money and lines are written down, with its order as it stands since. */
export interface Paid {
  order: OrderRow;
  payment: PaymentRow;
}

/** What was refunded whole by the time that something is done again is not owed any more. */
const isReturned = ({ total, refunded }: LineRow): boolean => total > 0 && refunded >= total;

/** What a payment brings beside its money and its lines, in the order in which it comes about. */
const CONSEQUENCES: Record<Consequence, (tx: Db, services: Needs, paid: Paid) => void> = {
  delivery: (tx, services, { order, payment }) => {
    const all = linesOf(tx, order.id);
    const returned = new Set(all.filter(isReturned).map(({ id }) => id));
    for (const line of all) {
      // The parts of a bundle go with it.
      if (returned.has(line.id) || (line.partOf && returned.has(line.partOf))) continue;
      const { productId, editionId, priceId, quantity } = line;
      if (line.paymentId !== payment.id || productId === null || line.part === 'set-up fee' || line.role === 'shipping') continue;
      deliver(tx, services, order, { lineId: line.id, productId, editionId, priceId, quantity });
    }
  },
  commission: (tx, services, { order, payment }) => earnCommissions(tx, services, order, payment),
  plans: (tx, services, { order, payment }) => {
    openPlans(tx, services, order, payment);
    endPlans(tx, services, order.id, linesOf(tx, order.id).filter(isReturned));
  },
  receipt: (tx, services, { order, payment }) => {
    if (payment.kind === 'addition') queueAdditionReceipt(tx, services, order, payment);
    else queueReceipt(tx, services, order, { waits: awaitsOffer(services, order) });
  },
  event: (_tx, services, paid) => (paid.payment.kind === 'addition' ? tellTaken(services, paid) : tellPaid(services, paid)),
  notice: (tx, services, { order, payment }) => {
    if (!isSale(payment.quote)) return;
    const isAdded = payment.kind === 'addition';
    const studioUrl = `${services.config.studioUrl}/sales/orders/${order.id}`;
    enqueue(tx, services, mail, {
      payload: saleMail(letterhead(services), { ...mailedOrder(services, order, [payment.quote]), ...(isAdded ? { added: true } : {}), studioUrl }),
      idempotencyKey: `sale ${isAdded ? payment.id : order.id}`,
      orderId: order.id,
    });
  },
};
const ALL = Object.keys(CONSEQUENCES) as Consequence[];

/**
 * Brings about what a payment brings, in the transaction that pays: each by itself, so that one that its own data keeps from
 * being done leaves the money written down and the others done. It is left visibly at the order until it is done. Only what
 * keeps anything from being written at all undoes the whole, which is tried again later.
 */
export function bringAbout(tx: Db, services: Needs, paid: Paid): void {
  for (const what of ALL) {
    try {
      tx.transaction((inner) => CONSEQUENCES[what](inner, services, paid));
    } catch (error) {
      if (whyUnwritten(error)) throw error;
      const message = error instanceof Error ? error.message : String(error);
      services.log.error({ err: error, order: paid.order.id, payment: paid.payment.id, what }, 'something that a payment brings could not be done');
      tx.insert(orderTroubles)
        .values({
          id: newId(services.clock, 'trouble'),
          orderId: paid.order.id,
          paymentId: paid.payment.id,
          what,
          message,
          at: services.clock.now(),
          mendedAt: null,
        })
        .run();
    }
  }
}

/** Does once more what could not be done. @throws Refusal 409 saying why it still cannot */
export function doAgain(services: Needs, orderId: string, troubleId: string): void {
  const { db, clock } = services;
  const isThis = and(eq(orderTroubles.id, troubleId), eq(orderTroubles.orderId, orderId), isNull(orderTroubles.mendedAt));
  db.transaction((tx) => {
    // Marked first and with its condition: pressed twice, it is done once.
    const trouble = tx.update(orderTroubles).set({ mendedAt: clock.now() }).where(isThis).returning().get();
    if (!trouble) throw notFound('This problem');
    const order = loadOrder(tx, orderId);
    if (order.state === 'refunded') throw new Refusal(409, 'This order was refunded. Nothing of it is owed any more.');
    try {
      tx.transaction((inner) => CONSEQUENCES[trouble.what](inner, services, { order, payment: loadPayment(tx, trouble.paymentId) }));
    } catch (error) {
      if (whyUnwritten(error)) throw error;
      services.log.error({ err: error, order: orderId, what: trouble.what }, 'something that a payment brings could not be done again');
      throw new Refusal(409, `This still cannot be done: ${error instanceof Error ? error.message : String(error)}`);
    }
  });
}

/** Says what happened with an order's first payment: of each bump whether it was taken; of a sale that it was paid. */
function tellPaid(services: Needs, { order, payment }: Paid): void {
  const { quote } = payment;
  for (const offerId of order.offered) {
    recordForOrder(services, order, 'offer.shown', { offerId, role: 'bump' });
    const taken = quote.lines.filter((line) => line.lineId === `bump-${offerId}`);
    if (taken.length > 0) recordForOrder(services, order, 'offer.taken', { offerId, role: 'bump', value: taken.reduce((sum, line) => sum + line.net, 0) });
  }
  // A gift is a lead, not a sale: its own event says so. A free trial is a sale of nothing today.
  if (!isSale(quote)) return;
  const event = makeEvent(services, 'order.paid', order.mode, visitorOf(services, order), {
    funnelId: order.funnelId,
    stepId: order.stepId,
    publicationId: order.publicationId,
    orderId: order.id,
    contactId: order.contactId,
    data: { value: quote.dueToday, currency: order.currency },
  });
  // The campaign is the one that brought the buyer here, whatever they clicked since.
  services.recorder.record({ ...event, campaign: order.campaign });
}

/** Says that what was offered after the payment was taken. */
function tellTaken(services: Needs, { order, payment: { offerId, stepId, quote } }: Paid): void {
  if (!offerId || !stepId) return;
  const value = quote.lines.reduce((sum, line) => sum + line.net, 0);
  recordForOrder(services, order, 'offer.taken', { offerId, role: quote.lines[0]?.role ?? 'upsell', value }, stepId);
}
