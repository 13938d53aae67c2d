import type { OrderAddress, OrderNote } from '@ruta/core/orders';
import { and, desc, eq, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { notFound } from '../base/problem';
import type { Services } from '../base/services';
import { users } from '../team/tables';
import { loadOrder, type OrderRow } from './store';
import { orderNotes, orders } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** What people of the shop have written down about an order, the newest first. */
export const notesOf = (db: Db, orderId: string): OrderNote[] =>
  db
    .select({ id: orderNotes.id, at: orderNotes.at, by: users.name, text: orderNotes.text })
    .from(orderNotes)
    .leftJoin(users, eq(users.id, orderNotes.userId))
    .where(eq(orderNotes.orderId, orderId))
    .orderBy(desc(orderNotes.at), desc(sql`order_notes.rowid`))
    .all();

export function addNote({ db, clock }: Needs, orderId: string, text: string, userId: string | null): void {
  db.insert(orderNotes)
    .values({ id: newId(clock, 'orderNote'), orderId, at: clock.now(), userId, text })
    .run();
}

/** @throws Refusal 404 if there is no such note */
export function removeNote(db: Db, orderId: string, id: string): void {
  const { changes } = db
    .delete(orderNotes)
    .where(and(eq(orderNotes.id, id), eq(orderNotes.orderId, orderId)))
    .run();
  if (changes === 0) throw notFound('This note');
}

const told = ({ buyer: { firstName, lastName, address } }: Pick<OrderRow, 'buyer'>) =>
  [`${firstName} ${lastName}`.trim(), address?.street, `${address?.postcode ?? ''} ${address?.city ?? ''}`.trim()].filter(Boolean).join(', ') || 'nothing';

/**
 * Corrects the name and postal address of an order, and notes what they were: parcels and later mails go by it. What was
 * charged, the country and the tax stay as they are.
 * @throws Refusal 404 if there is no such order
 */
export function correctAddress(services: Needs, orderId: string, { firstName, lastName, address }: OrderAddress, userId: string | null): void {
  services.db.transaction((tx) => {
    const order = loadOrder(tx, orderId);
    const { address: _before, ...rest } = order.buyer;
    const buyer = { ...rest, firstName, lastName, ...(address ? { address } : {}) };
    if (told({ buyer }) === told(order)) return;
    tx.update(orders).set({ buyer, firstName }).where(eq(orders.id, orderId)).run();
    addNote({ ...services, db: tx }, orderId, `Address corrected. It was: ${told(order)}.`, userId);
  });
}
