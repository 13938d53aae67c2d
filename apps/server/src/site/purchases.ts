import type { IncomingMessage } from 'node:http';
import { type PurchaseEntry, purchaseEntry } from '@ruta/core/tracking';
import { and, eq, inArray } from 'drizzle-orm';
import type { Services } from '../base/services';
import { additionsOf, firstPaymentOf, type OrderRow } from '../orders/store';
import { visitorIdOf } from '../tracking/browserIds';
import { events } from '../tracking/tables';

/**
 * What was paid of an order, for the data layer: the order itself and each thing added to it, by the ids of their events.
 * Nothing to another browser than the buyer's, in which it would count once more; nothing of tests and gifts.
 */
export function purchasesOf({ db }: Pick<Services, 'db'>, request: IncomingMessage, order: OrderRow | null | undefined): PurchaseEntry[] {
  if (!order || order.number === null || order.mode === 'test' || order.visitorId === null || order.browserId !== visitorIdOf(request)) return [];
  const first = firstPaymentOf(db, order.id);
  const recorded = db
    .select({ id: events.id, kind: events.kind, data: events.data })
    .from(events)
    .where(and(eq(events.orderId, order.id), inArray(events.kind, ['order.paid', 'offer.taken'])))
    .all();
  const paid = recorded.find(({ kind }) => kind === 'order.paid');
  const number = String(order.number);
  const added = additionsOf(db, order.id).flatMap((payment) => {
    const event = recorded.find(({ kind, data }) => kind === 'offer.taken' && data.offerId === payment.offerId);
    return event ? [purchaseEntry(event.id, number, payment.quote)] : [];
  });
  return [...(first && paid ? [purchaseEntry(paid.id, number, first.quote)] : []), ...added];
}
