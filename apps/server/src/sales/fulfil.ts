import type { Campaign, EventKind, Quote } from '@ruta/core';
import { eq } from 'drizzle-orm';
import { productFiles } from '../catalog/tables';
import { keepContact } from '../contacts/store';
import type { Db } from '../db/open';
import { newId, newToken } from '../ids';
import { receiptMail, saleMail } from '../mail/orderMails';
import { enqueue } from '../outbox/outbox';
import type { Services } from '../services';
import { loadShop, takeOrderNumber } from '../shop/store';
import { downloadLink, orderAddress } from '../site/links';
import { visitors } from '../tracking/tables';
import { makeEvent } from '../tracking/visitor';
import { grantsOf, type OrderRow } from './store';
import { carts, grants, orderLines, orders } from './tables';

const MAX_DOWNLOADS = 20;

/**
 * Makes an order paid: number, contact, lines, rights to files, the event, the buyer's receipt and the seller's
 * notice, all in the caller's transaction, so that either everything is there or nothing. Nothing is delivered
 * before this. An order that is paid already is left as it is.
 * @param chargeId the captured charge that pays every line; null for an order of value 0
 */
export function markPaid(tx: Db, services: Services, order: OrderRow, chargeId: string | null): void {
  if (order.state === 'paid') return;
  const { clock, recorder } = services;
  const now = clock.now();
  const shop = loadShop(tx);
  const visitor = order.visitorId ? (recorder.visitor(order.visitorId) ?? null) : null;
  const contact = keepContact(tx, services, { ...order.buyer, funnelId: order.funnelId, campaign: order.campaign });
  // Gifts are not sales: they take no number, so that the numbers of paid orders have no gaps.
  const number = order.total > 0 ? takeOrderNumber(tx) : null;
  tx.update(orders).set({ state: 'paid', number, paidAt: now, contactId: contact.id }).where(eq(orders.id, order.id)).run();
  tx.update(carts).set({ paidOrderId: order.id, updatedAt: now }).where(eq(carts.id, order.cartId)).run();
  if (visitor) tx.update(visitors).set({ contactId: contact.id }).where(eq(visitors.id, visitor.id)).run();

  for (const line of order.quote.lines) {
    const lineId = newId(clock, 'line');
    tx.insert(orderLines)
      .values({
        id: lineId,
        orderId: order.id,
        chargeId,
        productId: line.productId,
        name: line.name,
        role: line.role,
        quantity: line.quantity,
        total: line.total,
        tax: line.tax,
        net: line.net,
      })
      .run();
    const filesOfProduct = tx.select().from(productFiles).where(eq(productFiles.productId, line.productId)).orderBy(productFiles.position).all();
    for (const { fileId } of filesOfProduct) {
      tx.insert(grants)
        .values({ id: newId(clock, 'grant'), orderId: order.id, lineId, fileId, downloads: 0, maxDownloads: MAX_DOWNLOADS })
        .run();
    }
  }

  // A gift is a lead, not a sale: its own event says so.
  if (order.total > 0) {
    recorder.record({
      ...makeEvent(services, 'order.paid', order.mode, visitor, {
        funnelId: order.funnelId,
        stepId: order.stepId,
        orderId: order.id,
        contactId: contact.id,
        data: { value: order.total, currency: order.currency },
      }),
      // The campaign is the one that brought the buyer here, whatever they clicked since.
      campaign: order.campaign,
    });
  }

  const paid = { ...order, number, contactId: contact.id };
  queueReceipt(tx, services, paid, `receipt ${order.id}`);
  if (order.total > 0) {
    const studioUrl = `${services.config.studioUrl}/sales/orders/${order.id}`;
    enqueue(tx, services, {
      kind: 'mail',
      payload: { ...saleMail(shop, { ...mailedOrder(tx, services, paid), studioUrl }) },
      idempotencyKey: `sale ${order.id}`,
      orderId: order.id,
    });
  }
}

/**
 * Queues the buyer's receipt with fresh links to the files.
 * @param idempotencyKey the same key is queued once, so a receipt that is asked for again needs another
 */
export function queueReceipt(tx: Db, services: Services, order: OrderRow, idempotencyKey: string): void {
  const mail = receiptMail(loadShop(tx), mailedOrder(tx, services, order));
  enqueue(tx, services, { kind: 'mail', payload: { ...mail }, idempotencyKey, orderId: order.id, contactId: order.contactId });
}

function mailedOrder(tx: Db, services: Services, order: OrderRow) {
  return {
    number: order.number,
    quote: order.quote,
    buyer: order.buyer,
    orderUrl: orderAddress(services, order.token),
    downloads: grantsOf(tx, [order.id]).map((grant) => ({ name: grant.name, url: downloadLink(services, grant.id, 'mail') })),
  };
}

export interface NewOrder {
  funnelId: string;
  stepId: string;
  cartId: string;
  visitorId: string | null;
  mode: OrderRow['mode'];
  quote: Quote;
  buyer: OrderRow['buyer'];
  campaign: Campaign | null;
}

/** Writes an open order with everything it was quoted at, or brings the cart's open order up to date. */
export function keepOpenOrder(tx: Db, services: Pick<Services, 'clock'>, input: NewOrder): OrderRow {
  const { quote } = input;
  const values = {
    ...input,
    state: 'open' as const,
    currency: quote.currency,
    total: quote.dueToday,
    tax: quote.tax,
    netGoods: quote.lines.reduce((sum, line) => sum + line.net, 0),
  };
  const known = tx.select().from(orders).where(eq(orders.cartId, input.cartId)).get();
  if (known?.state === 'paid') return known;
  if (known) return tx.update(orders).set(values).where(eq(orders.id, known.id)).returning().get() as OrderRow;
  return tx
    .insert(orders)
    .values({ ...values, id: newId(services.clock, 'order'), number: null, contactId: null, token: newToken(), createdAt: services.clock.now(), paidAt: null })
    .returning()
    .get();
}

/** Records that something happened to an order, in the log that is its story. */
export function recordForOrder(services: Services, order: OrderRow, kind: EventKind, data: Record<string, unknown>): void {
  const visitor = order.visitorId ? (services.recorder.visitor(order.visitorId) ?? null) : null;
  services.recorder.record(
    makeEvent(services, kind, order.mode, visitor, { funnelId: order.funnelId, stepId: order.stepId, orderId: order.id, contactId: order.contactId, data }),
  );
}
