import { type Condition, truthOf } from '@ruta/core/conditions';
import type { ContactListQuery, ContactRow } from '@ruta/core/contacts';
import type { ListPage } from '@ruta/core/lists';
import { or, type SQL, sql } from 'drizzle-orm';
import { pageOf } from '../base/list';
import type { Services } from '../base/services';
import { contactsAfter, contactsKey, countContacts, type ListedContact } from '../contacts/store';
import { contacts } from '../contacts/tables';
import { orderLines, orders } from '../orders/tables';
import { gatherFacts } from './gather';
import { contactLookups } from './manyLookups';

type Needs = Pick<Services, 'db' | 'clock'>;
/** So many contacts are asked about at once. */
const AT_ONCE = 2000;
const GROWS = 5;

/**
 * One page of the contacts for whom a condition holds, newest first: what they own, where they are, what they answered and
 * how they are tagged, of live orders. What only one order or visit can tell is not known of a contact, and does not hold.
 */
export function listContacts(services: Needs, query: ContactListQuery): ListPage<ContactRow> {
  const key = contactsKey(query);
  if (!query.condition) return pageOf(contactsAfter(services.db, query), key, ({ sorted }) => sorted);
  const rows: ListedContact[] = [];
  for (const row of contactsWho(services, query)) if (rows.push(row) === key.limit) break;
  return pageOf(rows, key, ({ sorted }) => sorted);
}

/** How many contacts a list has. */
export function countListedContacts(services: Needs, query: ContactListQuery): number {
  if (!query.condition) return countContacts(services.db, query);
  let count = 0;
  for (const _ of contactsWho(services, { ...query, after: undefined })) count++;
  return count;
}

/** The contacts of a list in its order, from where the query goes on; they are read as far as somebody takes them. */
export function* contactsWho(services: Needs, query: ContactListQuery): Generator<ListedContact> {
  const { db } = services;
  const { condition } = query;
  // Each part is larger than the one before: a page is often full at once, and to look for one's place in a long list is dear.
  let after: string | undefined | null = query.after;
  for (let limit = AT_ONCE; after !== null; limit *= GROWS) {
    const asked: ContactListQuery = { ...query, limit, after };
    const page: ListPage<ListedContact> = pageOf(contactsAfter(db, asked, condition && canHold(condition)), contactsKey(asked), ({ sorted }) => sorted);
    for (let at = 0; at < page.rows.length; at += AT_ONCE) {
      const rows = page.rows.slice(at, at + AT_ONCE);
      const look = contactLookups(
        db,
        rows.map(({ id }) => id),
      );
      for (const row of rows) if (!condition || truthOf(condition, gatherFacts(services, { contactId: row.id, mode: 'live' }, look)) === true) yield row;
    }
    after = page.next;
  }
}

/** What is true of whomever a condition can hold for, in SQL: of a large shop few need be asked. Undefined if that may be anybody. */
function canHold(condition: Condition): SQL | undefined {
  if ('all' in condition) return condition.all.map(canHold).find((part) => part !== undefined);
  if ('any' in condition) {
    const parts = condition.any.map(canHold);
    return parts.includes(undefined) ? undefined : or(...parts);
  }
  if ('not' in condition || condition.fact !== 'owned' || condition.what.by !== 'product') return undefined;
  return sql`${contacts.id} IN (SELECT ${orders.contactId} FROM ${orderLines} JOIN ${orders} ON ${orders.id} = ${orderLines.orderId} WHERE ${orderLines.productId} = ${condition.what.productId})`;
}
