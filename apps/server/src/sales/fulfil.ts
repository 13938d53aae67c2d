import type { Campaign, EventKind, Quote, QuoteLine } from '@ruta/core';
import { eq } from 'drizzle-orm';
import { countKeys, giveKeys } from '../catalog/keys';
import { findProduct } from '../catalog/store';
import { keepContact } from '../contacts/store';
import type { Db } from '../db/open';
import { newId, newToken } from '../ids';
import { keysLowMail, receiptMail, saleMail } from '../mail/orderMails';
import { enqueue } from '../outbox/outbox';
import type { Services } from '../services';
import { loadShop, takeOrderNumber } from '../shop/store';
import { downloadLink, orderAddress } from '../site/links';
import { received } from '../site/orderView';
import { visitors } from '../tracking/tables';
import { makeEvent } from '../tracking/visitor';
import { releaseHolds } from './holds';
import { grantsOf, type OrderRow } from './store';
import { carts, grants, orderLines, orders } from './tables';

const DAY_MS = 24 * 60 * 60 * 1000;

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
  // Gifts are not sales: they take no number, so that the numbers of paid orders have no gaps. A free trial is one.
  const sale = isSale(order.quote);
  const number = sale ? takeOrderNumber(tx) : null;
  tx.update(orders).set({ state: 'paid', number, paidAt: now, contactId: contact.id }).where(eq(orders.id, order.id)).run();
  tx.update(carts).set({ paidOrderId: order.id, updatedAt: now }).where(eq(carts.id, order.cartId)).run();
  releaseHolds(tx, order.cartId);
  if (visitor) tx.update(visitors).set({ contactId: contact.id }).where(eq(visitors.id, visitor.id)).run();

  for (const line of order.quote.lines) writeLine(tx, services, order, line, chargeId, now);

  // A gift is a lead, not a sale: its own event says so. A free trial is a sale of nothing today.
  if (sale) {
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
  if (sale) {
    const studioUrl = `${services.config.studioUrl}/sales/orders/${order.id}`;
    enqueue(tx, services, {
      kind: 'mail',
      payload: { ...saleMail(shop, { ...mailedOrder(tx, services, paid), studioUrl }) },
      idempotencyKey: `sale ${order.id}`,
      orderId: order.id,
    });
  }
}

/** Whether a quote is of a sale, and not of a gift: something is paid today or later, or a code took all of a price. */
export function isSale(quote: Quote): boolean {
  return quote.dueToday > 0 || quote.later.length > 0 || quote.discount > 0;
}

/** Writes a paid line and gives what belongs to it. A bundle's parts are lines of their own without money, delivered each in its way. */
function writeLine(tx: Db, services: Services, order: OrderRow, line: QuoteLine, chargeId: string | null, now: number): void {
  const { clock } = services;
  const lineId = newId(clock, 'line');
  const { total, tax, net, role } = line;
  tx.insert(orderLines)
    .values({
      id: lineId,
      orderId: order.id,
      chargeId,
      productId: line.productId,
      editionId: line.editionId ?? null,
      priceId: line.priceId ?? null,
      partOf: null,
      name: line.name,
      role,
      quantity: line.quantity,
      total,
      tax,
      net,
    })
    .run();
  if (line.part === 'set-up fee') return;
  deliver(tx, services, order, { ...line, lineId, editionId: line.editionId ?? null, priceId: line.priceId ?? null }, now);
  for (const part of line.parts ?? []) {
    const partLine = {
      lineId: newId(clock, 'line'),
      productId: part.productId,
      editionId: part.editionId ?? null,
      priceId: null,
      quantity: part.quantity * line.quantity,
    };
    tx.insert(orderLines)
      .values({ id: partLine.lineId, orderId: order.id, chargeId, ...partLine, partOf: lineId, name: part.name, role, total: 0, tax: 0, net: 0 })
      .run();
    deliver(tx, services, order, partLine, now);
  }
}

interface Delivered {
  lineId: string;
  productId: string;
  editionId: string | null;
  priceId: string | null;
  quantity: number;
}

/** Rights to the files of what was bought, licence keys, and access to a course. */
function deliver(tx: Db, services: Services, order: OrderRow, line: Delivered, now: number): void {
  const { clock } = services;
  const product = findProduct(tx, line.productId);
  if (!product) return;
  const { maxDownloads, downloadDays, keys, course } = product.delivery;
  for (const file of product.files) {
    if (file.only !== null && file.only !== line.editionId && file.only !== line.priceId) continue;
    tx.insert(grants)
      .values({
        id: newId(clock, 'grant'),
        orderId: order.id,
        lineId: line.lineId,
        fileId: file.id,
        downloads: 0,
        maxDownloads,
        until: downloadDays === null ? null : now + downloadDays * DAY_MS,
      })
      .run();
  }
  giveKeys(tx, services, product, { orderId: order.id, lineId: line.lineId }, line.quantity);
  if (keys?.kind === 'list') {
    const { waiting, given } = countKeys(tx, product.id);
    if (waiting <= keys.warnAt) {
      const mail = keysLowMail(loadShop(tx), product.name, waiting, `${services.config.studioUrl}/catalog/${product.id}`);
      enqueue(tx, services, {
        kind: 'mail',
        payload: { ...mail }, // Once for each time keys were pasted: how many there have ever been tells that.
        idempotencyKey: `keys ${product.id} ${waiting === 0 ? 'none' : 'low'} ${waiting + given}`,
      });
    }
  }
  // In test mode nothing real is delivered at another company.
  if (course && order.mode === 'live') {
    enqueue(tx, services, {
      kind: 'course',
      payload: { courseId: course.courseId, email: order.buyer.email, firstName: order.buyer.firstName },
      idempotencyKey: `course ${line.lineId}`,
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
    ...received({ db: tx }, order),
  };
}

export interface NewOrder {
  funnelId: string;
  stepId: string;
  cartId: string;
  visitorId: string | null;
  mode: OrderRow['mode'];
  quote: Quote;
  /** The code that was used; null for none. */
  codeId: string | null;
  buyer: OrderRow['buyer'];
  campaign: Campaign | null;
  /** What stands for the card at the processor, for later charges. */
  paymentMethod?: string | null;
}

/** Writes an open order with everything it was quoted at, or brings the cart's open order up to date. */
export function keepOpenOrder(tx: Db, services: Pick<Services, 'clock'>, input: NewOrder): OrderRow {
  const { quote } = input;
  const values = {
    ...input,
    paymentMethod: input.paymentMethod ?? null,
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
