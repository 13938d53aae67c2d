import type { Mode } from '@ruta/core/shop';
import { type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { contactsIn } from '../contacts/store';
import { isPaid } from '../orders/store';
import { orders } from '../orders/tables';
import { type Bought, type KnownQuote, type Lookups, lookups } from './lookups';

/** Of a line that is gone back whole nothing is held any more, nor of the parts of a bundle that was. */
const IS_HELD = sql`NOT EXISTS (SELECT 1 FROM order_lines w WHERE w.id = coalesce(l.part_of, l.id) AND w.total > 0 AND w.refunded >= w.total)`;

/**
 * What conditions ask of many orders, each kind read at once when the first of them asks: a query for each order would be
 * most of a report's time. Says the same as what is looked up one by one.
 * @param orderIds the orders that are asked about, as JSON
 */
export function manyLookups(db: Db, orderIds: string): Lookups {
  const theirs = sql`(SELECT value FROM json_each(${orderIds}))`;
  return lookupsOf(db, theirs, sql`(SELECT DISTINCT contact_id FROM orders WHERE id IN ${theirs})`);
}

/** The same of many contacts, of whom no one order is asked. */
export const contactLookups = (db: Db, contactIds: readonly string[]): Lookups =>
  lookupsOf(db, sql`(SELECT NULL WHERE 0)`, sql`(SELECT value FROM json_each(${JSON.stringify(contactIds)}))`);

function lookupsOf(db: Db, theirs: SQL, contacts: SQL): Lookups {
  const quotes = once(() => quotesOf(db, theirs));
  const lines = once(() => linesBy(db, sql`l.order_id`, sql`l.order_id IN ${theirs}`));
  const held = new Map<Mode, Map<string, Bought[]>>();
  const tags = once(() =>
    grouped(
      db.all<{ key: string; tag: string }>(sql`SELECT contact_id AS key, tag FROM contact_tags WHERE contact_id IN ${contacts} ORDER BY tag`),
      ({ tag }) => tag,
    ),
  );
  const answers = once(() =>
    grouped(
      db.all<{ key: string; field: string; value: string }>(
        // The newest last, so that it is the one that stays; among equals as they are looked up one by one.
        sql`SELECT contact_id AS key, field, value FROM form_answers WHERE contact_id IN ${contacts} ORDER BY at, field DESC`,
      ),
      ({ field, value }) => [field, value] as const,
    ),
  );
  const declined = once(() =>
    grouped(
      db.all<{ key: string; stepId: string }>(
        sql`SELECT DISTINCT order_id AS key, step_id AS stepId FROM offer_showings WHERE order_id IN ${theirs} AND declined_at IS NOT NULL AND taken_at IS NULL`,
      ),
      ({ stepId }) => stepId,
    ),
  );
  const seen = once(() => {
    const visitors = sql`(SELECT coalesce(v.counts_as, v.id) FROM orders o JOIN visitors v ON v.id = o.visitor_id WHERE o.id IN ${theirs})`;
    return grouped(
      db.all<{ key: string; stepId: string; kind: string | null }>(
        sql`SELECT DISTINCT e.visitor_id AS key, e.step_id AS stepId, s.kind FROM events e LEFT JOIN steps s ON s.id = e.step_id
            WHERE e.visitor_id IN ${visitors} AND e.kind = 'page.viewed' AND e.step_id IS NOT NULL`,
      ),
      ({ stepId, kind }) => ({ stepId, kind }),
    );
  });
  const known = once(() => new Map(contactsIn(db, contacts).map((contact) => [contact.id, contact])));
  return {
    ...lookups(db),
    contact: (contactId) => known().get(contactId),
    quotes: (orderId) => quotes().get(orderId) ?? [],
    lines: (orderId) => lines().get(orderId) ?? [],
    purchases: (contactId, mode) => {
      const known =
        held.get(mode) ??
        linesBy(
          db,
          sql`o.contact_id`,
          // A plus, so that orders are found by their contact and not by what nearly all of them have.
          sql`o.contact_id IN ${contacts} AND +o.mode = ${mode} AND EXISTS (SELECT 1 FROM ${orders} WHERE ${orders.id} = o.id AND ${isPaid}) AND ${IS_HELD}`,
        );
      held.set(mode, known);
      return known.get(contactId) ?? [];
    },
    tags: (contactId) => tags().get(contactId) ?? [],
    declined: (orderId) => declined().get(orderId) ?? [],
    seen: (visitorId) => {
      const rows = seen().get(visitorId) ?? [];
      return { steps: rows.map(({ stepId }) => stepId), checkout: rows.some(({ kind }) => kind === 'checkout') };
    },
    answers: (contactId) => Object.fromEntries(answers().get(contactId) ?? []),
  };
}

function linesBy(db: Db, key: SQL, where: SQL): Map<string, Bought[]> {
  const rows = db.all<Bought & { key: string }>(
    sql`SELECT ${key} AS key, l.product_id AS productId, l.edition_id AS editionId, l.price_id AS priceId, l.role, l.quantity
        FROM order_lines l JOIN orders o ON o.id = l.order_id WHERE ${where} ORDER BY l.id`,
  );
  return grouped(rows, ({ key: _key, ...line }) => line);
}

interface QuoteRow {
  key: string;
  kind: string;
  state: string;
  quote: string;
}

/** Just what is asked of them is kept of the quotes, which hold much more and need not be checked again. */
function quotesOf(db: Db, theirs: SQL): Map<string, KnownQuote[]> {
  const rows = db.all<QuoteRow>(
    sql`SELECT order_id AS key, kind, state, quote FROM payments WHERE order_id IN ${theirs} AND kind IN ('first', 'addition') ORDER BY created_at, id`,
  );
  const found = new Map<string, KnownQuote[]>();
  for (const [key, all] of grouped(rows, (row) => row)) {
    const tried = all.filter(({ kind }) => kind === 'first');
    // The first payment that counts, as `firstPaymentOf` chooses it.
    const first = tried.find(({ state }) => state === 'paid') ?? tried.findLast(({ state }) => state === 'open') ?? tried.at(-1);
    if (first) found.set(key, [first, ...all.filter(({ kind, state }) => kind === 'addition' && state === 'paid')].map(quoteOf));
  }
  return found;
}

function quoteOf({ quote }: QuoteRow): KnownQuote {
  const { orderTotal, taxCountry, code, shipping } = JSON.parse(quote) as KnownQuote;
  return { orderTotal, taxCountry, code, shipping };
}

function grouped<Row extends { key: string }, Value>(rows: readonly Row[], take: (row: Row) => Value): Map<string, Value[]> {
  const found = new Map<string, Value[]>();
  for (const row of rows) {
    const known = found.get(row.key);
    if (known) known.push(take(row));
    else found.set(row.key, [take(row)]);
  }
  return found;
}

function once<Value>(look: () => Value): () => Value {
  let seen: { value: Value } | undefined;
  return () => {
    seen ??= { value: look() };
    return seen.value;
  };
}
