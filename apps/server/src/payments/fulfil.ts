import type { StoredQuote } from '@ruta/core/pricing';
import type { EventKind, EventPayload } from '@ruta/core/tracking';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import { countSold, releaseHolds } from '../catalog/availability';
import { countSale, saveContact } from '../contacts/store';
import { deliver } from '../delivery/deliver';
import { mailedOrder, queueAdditionReceipt, queueReceipt } from '../delivery/receipt';
import type { LiveServices } from '../funnel/live';
import { letterhead } from '../mail/letterhead';
import { saleMail } from '../mail/saleMail';
import { awaitsOffer } from '../offers/onward';
import type { OrderRow, PaymentRow } from '../orders/store';
import { orders, payments } from '../orders/tables';
import { addToOrder, writeLines } from '../orders/write';
import { earnCommissions } from '../partners/earn';
import { openPlans } from '../plans/store';
import { takeOrderNumber } from '../shop/store';
import type { Tracked } from '../tracking/recorder';
import { visitors } from '../tracking/tables';
import { makeEvent } from '../tracking/visitor';
import { visitorOf } from '../tracking/visitorOf';
import { giveMethodTo } from './methods';

/** Whether a quote is of a sale, and not of a gift: something is paid today or later, or a code took all of a price. */
export function isSale(quote: Pick<StoredQuote, 'dueToday' | 'plans' | 'discount'>): boolean {
  return quote.dueToday > 0 || quote.plans.length > 0 || quote.discount > 0;
}

/**
 * Makes an order's first payment paid: number, contact, lines, what they go on owing, rights to files, the event, the
 * buyer's receipt and the seller's notice, all in the caller's transaction, so that either everything is there or
 * nothing. Nothing is delivered before this.
 */
export function markPaid(tx: Db, services: Tracked & LiveServices, order: OrderRow, payment: PaymentRow): void {
  const { clock, recorder } = services;
  const now = clock.now();
  const visitor = visitorOf(services, order);
  const contact = saveContact(tx, services, { ...order.buyer, funnelId: order.funnelId, campaign: order.campaign, isOwner: isSale(payment.quote) });
  // Gifts are not sales: they take no number, so that the numbers of paid orders have no gaps. A free trial is one.
  const sale = isSale(payment.quote);
  const paid: OrderRow = { ...order, state: 'paid', number: sale ? takeOrderNumber(tx, order.mode) : null, paidAt: now, contactId: contact.id };
  tx.update(orders).set({ state: paid.state, number: paid.number, paidAt: now, contactId: contact.id }).where(eq(orders.id, order.id)).run();
  tx.update(payments).set({ state: 'paid', paidAt: now }).where(eq(payments.id, payment.id)).run();
  if (payment.methodId) giveMethodTo(tx, payment.methodId, contact.id);
  if (visitor) {
    const { email, firstName, lastName, country } = order.buyer;
    const known = { contactId: contact.id, typed: isSale(payment.quote) ? { ...visitor.typed, email, firstName, lastName, country } : visitor.typed };
    tx.update(visitors).set(known).where(eq(visitors.id, visitor.id)).run();
    recorder.knows(visitor.id, known);
  }

  giveGoods(tx, services, paid, payment);
  releaseHolds(tx, order.cartId);
  if (sale && order.total > 0 && order.mode === 'live') countSale(tx, contact.id, order.total);
  recordBumps(services, paid, payment);
  queueReceipt(tx, services, paid, { waits: awaitsOffer(services, paid) });
  if (!sale) return;

  // A gift is a lead, not a sale: its own event says so. A free trial is a sale of nothing today.
  const event = makeEvent(services, 'order.paid', order.mode, visitor, {
    funnelId: order.funnelId,
    stepId: order.stepId,
    publicationId: order.publicationId,
    orderId: order.id,
    contactId: contact.id,
    data: { value: order.total, currency: order.currency },
  });
  // The campaign is the one that brought the buyer here, whatever they clicked since.
  recorder.record({ ...event, campaign: order.campaign });
  const studioUrl = `${services.config.studioUrl}/sales/orders/${order.id}`;
  enqueue(tx, services, mail, {
    payload: saleMail(letterhead(services), { ...mailedOrder(services, paid, [payment.quote]), studioUrl }),
    idempotencyKey: `sale ${order.id}`,
    orderId: order.id,
  });
}

/**
 * Makes an addition paid: its lines, what they go on owing, rights to files, the event and the mails, all in the caller's
 * transaction. It joins the order that it was added to.
 */
export function markAdded(tx: Db, services: Tracked & LiveServices, order: OrderRow, payment: PaymentRow): void {
  const now = services.clock.now();
  tx.update(payments).set({ state: 'paid', paidAt: now }).where(eq(payments.id, payment.id)).run();
  if (payment.methodId && order.contactId) giveMethodTo(tx, payment.methodId, order.contactId);
  // What was a gift becomes a sale with the first thing that is paid.
  const number = order.number ?? (isSale(payment.quote) ? takeOrderNumber(tx, order.mode) : null);
  if (number !== order.number) tx.update(orders).set({ number }).where(eq(orders.id, order.id)).run();
  const added = addToOrder(tx, order, payment.quote);
  giveGoods(tx, services, added, payment);
  releaseHolds(tx, order.cartId);
  if (order.contactId && payment.amount > 0 && order.mode === 'live') countSale(tx, order.contactId, payment.amount, order.number === null);
  const { offerId, stepId } = payment;
  const role = payment.quote.lines[0]?.role ?? 'upsell';
  const value = payment.quote.lines.reduce((sum, line) => sum + line.net, 0);
  if (offerId && stepId) recordForOrder(services, added, 'offer.taken', { offerId, role, value }, stepId);
  queueAdditionReceipt(tx, services, added, payment);
  if (!isSale(payment.quote)) return;
  enqueue(tx, services, mail, {
    payload: saleMail(letterhead(services), {
      ...mailedOrder(services, added, [payment.quote]),
      added: true,
      studioUrl: `${services.config.studioUrl}/sales/orders/${order.id}`,
    }),
    idempotencyKey: `sale ${payment.id}`,
    orderId: order.id,
  });
}

/** Writes what a payment brings: lines, rights to files and keys, what is owed later, and what is left of the stock. */
function giveGoods(tx: Db, services: Tracked, order: OrderRow, payment: PaymentRow): void {
  for (const line of writeLines(tx, services, payment)) {
    if (line.editionId) countSold(tx, line.editionId, order.mode, line.quantity);
    deliver(tx, services, order, line);
  }
  earnCommissions(tx, services, order, payment);
  openPlans(tx, services, order, payment);
}

/** Says of each bump that stood on the checkout that it was shown, and of those that were ticked that they were taken. */
function recordBumps(services: Tracked, order: OrderRow, { quote }: PaymentRow): void {
  for (const offerId of order.offered) {
    recordForOrder(services, order, 'offer.shown', { offerId, role: 'bump' });
    const taken = quote.lines.filter((line) => line.lineId === `bump-${offerId}`);
    if (taken.length > 0) recordForOrder(services, order, 'offer.taken', { offerId, role: 'bump', value: taken.reduce((sum, line) => sum + line.net, 0) });
  }
}

/** Records that something happened to an order, in the log that is its story. */
export function recordForOrder<Kind extends EventKind>(services: Tracked, order: OrderRow, kind: Kind, data: EventPayload<Kind>, stepId = order.stepId): void {
  const visitor = visitorOf(services, order);
  services.recorder.record(
    makeEvent(services, kind, order.mode, visitor, {
      funnelId: order.funnelId,
      stepId,
      publicationId: order.publicationId,
      orderId: order.id,
      contactId: order.contactId,
      arms: order.arms,
      data,
    }),
  );
}
