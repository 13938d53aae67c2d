import type { StoredQuote } from '@ruta/core/pricing';
import { mergedQuote } from '@ruta/core/pricing';
import { and, eq, inArray } from 'drizzle-orm';
import type { z } from 'zod';
import type { Db } from '../base/db';
import type { Mail } from '../base/outbox/kinds/mail';
import { receipt } from '../base/outbox/kinds/receipt';
import { enqueue, isQueued, sendAt, sendNow } from '../base/outbox/outbox';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { mayWriteTo } from '../mail/fewMails';
import { greetedName } from '../mail/greeting';
import { letterhead } from '../mail/letterhead';
import type { MailedOrder } from '../mail/mailedOrder';
import { receiptMail, receiptSubject } from '../mail/receiptMail';
import { additionsOf, countedQuotes, firstPaymentOf, loadOrder, loadPayment, type OrderRow, type PaymentRow } from '../orders/store';
import { payments } from '../orders/tables';
import { loadShop } from '../shop/store';
import { downloadLink } from './links';
import { mailedAddress } from './orderLink';
import { received } from './received';
import { grantsOf } from './store';

/** So long after the payment a receipt waits for what the buyer may still add, unless it is clear before that nothing follows. */
const WAIT_FOR_MORE_MS = 3 * 60_000;
/** So long after its page was left: a page that is loaded anew, or left by mistake, is back before. */
const LEFT_MS = 8_000;

const receiptKey = (orderId: string) => `receipt ${orderId}`;
const additionKey = (paymentId: string) => `receipt ${paymentId}`;

/** Queues the buyer's receipt; it tells everything that is bought by the time it is sent. */
export function queueReceipt(tx: Db, services: Services, order: OrderRow, { waits }: { waits: boolean }, idempotencyKey = receiptKey(order.id)): void {
  // A gift is sent to whatever address was typed; what was paid for, to its buyer.
  if (order.number === null && !mayWriteTo(services, order.buyer.email)) return;
  enqueue(tx, services, receipt, {
    payload: { orderId: order.id, paymentId: null, to: order.buyer.email, subject: subjectOf(services, order, countedQuotes(tx, order.id), false) },
    idempotencyKey,
    orderId: order.id,
    contactId: order.contactId,
    waits: waits ? WAIT_FOR_MORE_MS : 0,
  });
}

/** Sends the receipt of a paid order once more, with everything that belongs to it now; asked for twice within a minute, once. */
export function sendReceiptAgain(services: Services, orderId: string): void {
  const { db, clock } = services;
  const order = loadOrder(db, orderId);
  if (order.paidAt === null) throw new Refusal(409, 'This order is not paid, so it has no receipt.');
  const minute = Math.floor(clock.now() / 60_000);
  db.transaction((tx) => queueReceipt(tx, services, order, { waits: false }, `${receiptKey(orderId)} again ${minute}`));
}

/** Queues the receipt of something added, if the order's own has been written before it. */
export function queueAdditionReceipt(tx: Db, services: Services, order: OrderRow, payment: PaymentRow): void {
  if (firstPaymentOf(tx, order.id)?.toldAt == null) return;
  enqueue(tx, services, receipt, {
    payload: { orderId: order.id, paymentId: payment.id, to: order.buyer.email, subject: subjectOf(services, order, [payment.quote], true) },
    idempotencyKey: additionKey(payment.id),
    orderId: order.id,
    contactId: order.contactId,
  });
}

/** What a receipt is called, for the story of its order, before anything else of it is put together. */
const subjectOf = ({ db }: Pick<Services, 'db'>, { mode, number }: OrderRow, quotes: StoredQuote[], added: boolean) =>
  receiptSubject(loadShop(db), { test: mode === 'test', number, quote: mergedQuote(quotes), added });

/** Has a receipt that waits for more sent at once: the buyer has come to the end. */
export function releaseReceipt(services: Pick<Services, 'db' | 'clock'>, orderId: string): void {
  sendNow(services, receiptKey(orderId));
}

/** Has a receipt that waits for more sent soon: the buyer has closed the page of an offer. Whoever comes back meanwhile has it wait again. */
export function releaseReceiptSoon(services: Pick<Services, 'db' | 'clock'>, { id, paidAt }: OrderRow): void {
  const now = services.clock.now();
  sendAt(services, receiptKey(id), Math.min(now + LEFT_MS, (paidAt ?? now) + WAIT_FOR_MORE_MS));
}

/** Has a receipt wait again for as long as it may: the buyer looks at an offer. */
export function holdReceipt(services: Pick<Services, 'db' | 'clock'>, { id, paidAt }: OrderRow): void {
  if (paidAt !== null) sendAt(services, receiptKey(id), paidAt + WAIT_FOR_MORE_MS);
}

/** Writes a receipt at the moment it is sent, and what it tells. What is paid after that has a receipt of its own. */
export function writeReceipt(services: Services, { orderId, paymentId }: z.infer<typeof receipt.payload>): Mail {
  const { db, clock } = services;
  const order = loadOrder(db, orderId);
  const from = letterhead(services, order.funnelId);
  if (paymentId !== null) return receiptMail(from, { ...toBuyer(services, order, [loadPayment(db, paymentId).quote]), added: true });
  const first = firstPaymentOf(db, orderId);
  const told = [...(first ? [first] : []), ...additionsOf(db, orderId).filter((payment) => !isQueued(db, additionKey(payment.id)))];
  const ids = told.map((payment) => payment.id);
  db.update(payments)
    .set({ toldAt: clock.now() })
    .where(and(eq(payments.orderId, orderId), inArray(payments.id, ids)))
    .run();
  return receiptMail(
    from,
    toBuyer(
      services,
      order,
      told.map((payment) => payment.quote),
    ),
  );
}

/** The same as its buyer is told it: where nothing was paid, the address may be somebody else's, and all it is sent of what was typed is a name. */
function toBuyer(services: Services, order: OrderRow, quotes: StoredQuote[]): MailedOrder {
  const told = mailedOrder(services, order, quotes);
  return order.total > 0 ? told : { ...told, buyer: { email: order.buyer.email, firstName: greetedName(order.buyer.firstName) } };
}

/** An order as mails tell it; by default with everything that belongs to it. */
export function mailedOrder(services: Services, order: OrderRow, quotes: StoredQuote[] = countedQuotes(services.db, order.id)): MailedOrder {
  return {
    test: order.mode === 'test',
    number: order.number,
    quote: mergedQuote(quotes),
    buyer: order.buyer,
    orderUrl: mailedAddress(services, order),
    downloads: grantsOf(services.db, [order.id]).map((grant) => ({ name: grant.name, url: downloadLink(services, grant.id, 'mail') })),
    ...received(services, order),
  };
}
