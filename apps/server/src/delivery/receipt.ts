import type { Db } from '../base/db';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import type { Services } from '../base/services';
import type { MailedOrder } from '../mail/mailedOrder';
import { receiptMail } from '../mail/receiptMail';
import { orderAddress } from '../orders/address';
import type { OrderRow } from '../orders/store';
import { loadShop } from '../shop/store';
import { downloadLink } from './links';
import { firstQuote } from './orderView';
import { received } from './received';
import { grantsOf } from './store';

/**
 * Queues the buyer's receipt with fresh links to the files.
 * @param idempotencyKey the same key is queued once, so a receipt that is asked for again needs another
 */
export function queueReceipt(tx: Db, services: Services, order: OrderRow, idempotencyKey: string, told = mailedOrder(services, order)): void {
  const payload = receiptMail(loadShop(services.db), told);
  enqueue(tx, services, mail, { payload, idempotencyKey, orderId: order.id, contactId: order.contactId });
}

/** An order as mails tell it. */
export function mailedOrder(services: Services, order: OrderRow): MailedOrder {
  return {
    test: order.mode === 'test',
    number: order.number,
    quote: firstQuote(services, order),
    buyer: order.buyer,
    orderUrl: orderAddress(services, order.token),
    downloads: grantsOf(services.db, [order.id]).map((grant) => ({ name: grant.name, url: downloadLink(services, grant.id, 'mail') })),
    ...received(services, order),
  };
}
