import { isSale } from '@ruta/core/orders';
import { eq } from 'drizzle-orm';
import { tallyOrder } from '../arms/tally';
import type { Db } from '../base/db';
import { countSold, releaseHolds } from '../catalog/availability';
import { countSale, saveContact } from '../contacts/store';
import type { LiveServices } from '../funnel/live';
import type { OrderRow, PaymentRow } from '../orders/store';
import { orders, payments } from '../orders/tables';
import { addToOrder, writeLines } from '../orders/write';
import { takeOrderNumber } from '../shop/store';
import type { Tracked } from '../tracking/recorder';
import { visitors } from '../tracking/tables';
import { visitorOf } from '../tracking/visitorOf';
import { bringAbout } from './consequences';
import { giveMethodTo } from './methods';

/**
 * Makes an order's first payment paid, in the caller's transaction. The money's side is written down first (number, contact,
 * lines, stock), then what it brings. Nothing is delivered before this.
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

  writeGoods(tx, services, paid, payment);
  releaseHolds(tx, order.cartId);
  if (sale && order.total > 0 && order.mode === 'live') countSale(tx, contact.id, order.total);
  bringAbout(tx, services, { order: paid, payment: { ...payment, state: 'paid', paidAt: now } });
}

/** Makes an addition paid in the same way, in the caller's transaction. It joins the order that it was added to. */
export function markAdded(tx: Db, services: Tracked & LiveServices, order: OrderRow, payment: PaymentRow): void {
  const now = services.clock.now();
  tx.update(payments).set({ state: 'paid', paidAt: now }).where(eq(payments.id, payment.id)).run();
  if (payment.methodId && order.contactId) giveMethodTo(tx, payment.methodId, order.contactId);
  // What was a gift becomes a sale with the first thing that is paid.
  const number = order.number ?? (isSale(payment.quote) ? takeOrderNumber(tx, order.mode) : null);
  if (number !== order.number) tx.update(orders).set({ number }).where(eq(orders.id, order.id)).run();
  const added = addToOrder(tx, order, payment.quote);
  writeGoods(tx, services, added, payment);
  releaseHolds(tx, order.cartId);
  if (order.contactId && payment.amount > 0 && order.mode === 'live') countSale(tx, order.contactId, payment.amount, order.number === null);
  bringAbout(tx, services, { order: added, payment: { ...payment, state: 'paid', paidAt: now } });
}

/** Writes the lines that a payment brings, what is left of the stock, and what tests have of it. */
function writeGoods(tx: Db, services: Tracked, order: OrderRow, payment: PaymentRow): void {
  for (const line of writeLines(tx, services, payment)) if (line.editionId) countSold(tx, line.editionId, order.mode, line.quantity);
  tallyOrder({ ...services, db: tx }, order.id);
}
