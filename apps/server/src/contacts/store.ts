import type { ContactRow as ContactListRow } from '@ruta/core/contacts';
import type { ListQuery } from '@ruta/core/lists';
import { and, eq, type SQL, sql } from 'drizzle-orm';
import { builtOnce, type Db } from '../base/db';
import { newId } from '../base/ids';
import { countRows, type Keyset, keyset, rowsOf, searched } from '../base/list';
import { notFound } from '../base/problem';
import type { Services } from '../base/services';
import { contacts } from './tables';

export type ContactRow = typeof contacts.$inferSelect;

const byEmail = builtOnce((db) =>
  db
    .select()
    .from(contacts)
    .where(eq(contacts.email, sql.placeholder('email')))
    .prepare(),
);
const byId = builtOnce((db) =>
  db
    .select()
    .from(contacts)
    .where(eq(contacts.id, sql.placeholder('id')))
    .prepare(),
);

export interface ContactDetails {
  email: string;
  firstName?: string | undefined;
  lastName?: string | undefined;
  country?: string | undefined;
  answers?: Record<string, string>;
  funnelId: string | null;
  campaign: ContactRow['campaign'];
  /** Whether who says this has paid from this address; others only add what is missing. */
  isOwner: boolean;
}

/** Adds a contact, or completes the one with this address: an address is one person, however it is written. */
export function saveContact(tx: Db, { clock }: Pick<Services, 'clock'>, details: ContactDetails): ContactRow {
  const now = clock.now();
  const email = details.email.trim().toLowerCase();
  const known = findContactByEmail(tx, email);
  const pick = (said: string | undefined, before: string | null | undefined) => (details.isOwner ? said || before : before || said);
  const row: ContactRow = {
    id: known?.id ?? newId(clock, 'contact'),
    email,
    firstName: pick(details.firstName, known?.firstName) || '',
    lastName: pick(details.lastName, known?.lastName) || '',
    country: pick(details.country, known?.country) || null,
    answers: { ...known?.answers, ...details.answers },
    funnelId: known?.funnelId ?? details.funnelId,
    campaign: known?.campaign ?? details.campaign,
    quality: known?.quality ?? null,
    orders: known?.orders ?? 0,
    paid: known?.paid ?? 0,
    createdAt: known?.createdAt ?? now,
    updatedAt: now,
  };
  tx.insert(contacts).values(row).onConflictDoUpdate({ target: contacts.id, set: row }).run();
  return row;
}

/**
 * Counts a live sale to a contact; call it in the transaction that pays it.
 * @param isNew false for what is added to an order that is counted already
 */
export function countSale(tx: Db, contactId: string, paid: number, isNew = true): void {
  tx.update(contacts)
    .set({ orders: sql`${contacts.orders} + ${isNew ? 1 : 0}`, paid: sql`${contacts.paid} + ${paid}` })
    .where(eq(contacts.id, contactId))
    .run();
}

/** Counts money as paid by a contact, or less of it where it is given back. */
export function countPaid(tx: Db, contactId: string, amount: number): void {
  tx.update(contacts)
    .set({ paid: sql`${contacts.paid} + ${amount}` })
    .where(eq(contacts.id, contactId))
    .run();
}

export function findContactByEmail(db: Db, email: string): ContactRow | undefined {
  return byEmail(db).get({ email: email.trim().toLowerCase() });
}

/** The contacts whose ids a query gives. */
export const contactsIn = (db: Db, ids: SQL): ContactRow[] => db.select().from(contacts).where(sql`${contacts.id} IN ${ids}`).all();

export function findContact(db: Db, id: string): ContactRow | undefined {
  return byId(db).get({ id });
}

/** @throws Refusal 404 if there is no such contact */
export function loadContact(db: Db, id: string): ContactRow {
  const contact = findContact(db, id);
  if (!contact) throw notFound('This contact');
  return contact;
}

const SORTING = { columns: { created: contacts.createdAt, paid: contacts.paid, orders: contacts.orders, email: contacts.email }, id: contacts.id };
const found = (search: string) => searched(search, [contacts.email, contacts.firstName, contacts.lastName]);

/** A row of a list of contacts, with what the list is sorted by. */
export type ListedContact = ContactListRow & { sorted: string | number };

/** How a list of contacts goes on. */
export const contactsKey = (query: ListQuery): Keyset => keyset(SORTING, query);

/** Contacts of a list after a key, one more than are asked for, as far as they are among those meant. */
export function contactsAfter(db: Db, query: ListQuery, meant?: SQL): ListedContact[] {
  const key = contactsKey(query);
  const fields = {
    id: contacts.id,
    email: contacts.email,
    firstName: contacts.firstName,
    lastName: contacts.lastName,
    country: contacts.country,
    createdAt: contacts.createdAt,
    orders: contacts.orders,
    paid: contacts.paid,
    sorted: key.column,
  };
  const read = db
    .select(fields)
    .from(contacts)
    .where(and(found(query.search), meant, key.after))
    .orderBy(...key.order)
    .limit(key.limit);
  return rowsOf<ListedContact>(fields, read.values());
}

export const countContacts = (db: Db, { search }: Pick<ListQuery, 'search'>): number => countRows(db, contacts, found(search));
