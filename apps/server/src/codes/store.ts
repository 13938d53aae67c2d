import { type Code, type CodeRow, type CodeUses, normalizeCode } from '@ruta/core/codes';
import type { ListPage, ListQuery } from '@ruta/core/lists';
import { PAID_STATES } from '@ruta/core/orders';
import { and, eq, inArray, isNull, ne, type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { countRows, keyset, pageOf, searched } from '../base/list';
import { fieldRefusal, notFound } from '../base/problem';
import { revisionOf } from '../base/revision';
import type { Services } from '../base/services';
import { stillHeld } from '../catalog/availability';
import { productLabels } from '../catalog/store';
import { holds } from '../catalog/tables';
import { orders } from '../orders/tables';
import { loadShop } from '../shop/store';
import { codes } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

export interface StoredCode {
  id: string;
  terms: Code;
}

const SORTING = { columns: { created: codes.createdAt, code: codes.code }, id: codes.id };
const isPaid = inArray(orders.state, [...PAID_STATES]);

/** One page of the discount codes with what they brought in live mode. */
export function listCodes(db: Db, query: ListQuery): ListPage<CodeRow> {
  const key = keyset(SORTING, query);
  const rows = db
    .select({ id: codes.id, terms: codes.terms, createdAt: codes.createdAt, code: codes.code })
    .from(codes)
    .where(and(filterOf(query), key.after))
    .orderBy(...key.order)
    .limit(key.limit)
    .all();
  const page = pageOf(rows, key, (row) => (query.sort === 'code' ? row.code : row.createdAt));
  const brought = broughtBy(
    db,
    page.rows.map((row) => row.id),
  );
  const labels = productLabels(
    db,
    page.rows.flatMap((row) => scopeOf(row.terms)),
  );
  return {
    next: page.next,
    rows: page.rows.map(({ code: _code, ...row }) => ({
      ...row,
      revision: revisionOf(row.terms),
      products: scopeOf(row.terms).flatMap((id) => labels.get(id) ?? []),
      ...(brought.get(row.id) ?? { uses: 0, paid: 0 }),
    })),
  };
}

/** Ids of the products that a code is for; empty if it is not for chosen ones. */
const scopeOf = ({ scope }: Code): string[] => (scope.kind === 'products' ? scope.productIds : []);

export const countCodes = (db: Db, query: ListQuery): number => countRows(db, codes, filterOf(query));

const filterOf = ({ search }: ListQuery): SQL | undefined => and(isNull(codes.archivedAt), searched(search, [codes.code]));

/** The terms of every code that is not archived, newest first, for a file. */
export function allCodes(db: Db): Code[] {
  return db
    .select({ terms: codes.terms })
    .from(codes)
    .where(isNull(codes.archivedAt))
    .orderBy(sql`${codes.createdAt} DESC, ${codes.id} DESC`)
    .all()
    .map((row) => row.terms);
}

/** What a code says, whether or not it can still be typed; undefined if it is gone. */
export function codeTerms(db: Db, id: string): Code | undefined {
  return db.select({ terms: codes.terms }).from(codes).where(eq(codes.id, id)).get()?.terms;
}

/** Uses in paid live orders and what those paid on their day, by code. */
function broughtBy(db: Db, ids: readonly string[]): Map<string, { uses: number; paid: number }> {
  if (ids.length === 0) return new Map();
  const rows = db
    .select({ codeId: orders.codeId, uses: sql<number>`count(*)`, paid: sql<number>`coalesce(sum(${orders.total}), 0)` })
    .from(orders)
    .where(and(inArray(orders.codeId, [...ids]), isPaid, eq(orders.mode, 'live')))
    .groupBy(orders.codeId)
    .all();
  return new Map(rows.map(({ codeId, uses, paid }) => [codeId ?? '', { uses, paid }]));
}

/** The code that a buyer typed; undefined if there is none. */
export function findCode(db: Db, typed: string): StoredCode | undefined {
  return db
    .select({ id: codes.id, terms: codes.terms })
    .from(codes)
    .where(and(eq(codes.code, normalizeCode(typed)), isNull(codes.archivedAt)))
    .get();
}

/** How often a code was used in paid orders of the shop's mode, and is held by other carts that are paying. */
export function codeUses({ db, clock }: Needs, codeId: string, email: string | undefined, cartId: string | null): CodeUses {
  const who = email?.trim().toLowerCase() ?? '';
  const used = db
    .select({ total: sql<number>`count(*)`, byBuyer: sql<number>`coalesce(sum(${orders.email} = ${who}), 0)` })
    .from(orders)
    .where(and(eq(orders.codeId, codeId), isPaid, eq(orders.mode, loadShop(db).settings.mode)))
    .get();
  const held = db
    .select({ total: sql<number>`count(*)`, byBuyer: sql<number>`coalesce(sum(${holds.email} = ${who}), 0)` })
    .from(holds)
    .where(and(eq(holds.kind, 'code'), eq(holds.subjectId, codeId), stillHeld(clock.now()), cartId === null ? undefined : ne(holds.cartId, cartId)))
    .get();
  return { total: (used?.total ?? 0) + (held?.total ?? 0), byBuyer: who === '' ? 0 : (used?.byBuyer ?? 0) + (held?.byBuyer ?? 0) };
}

/** Adds a code, or changes the one with this id. @throws Refusal 409 if another code reads the same, 404 if there is no such id */
export function saveCode({ db, clock }: Needs, id: string | null, terms: Code): CodeRow {
  const now = clock.now();
  const code = normalizeCode(terms.code);
  const same = db.select({ id: codes.id, archivedAt: codes.archivedAt }).from(codes).where(eq(codes.code, code)).get();
  if (same && same.id !== id) {
    throw fieldRefusal('code', same.archivedAt === null ? 'There is a code like this already.' : 'A code like this was archived. Choose another word.', 409);
  }
  const kept = { code, terms: { ...terms, code }, updatedAt: now };
  if (id === null) {
    const made = newId(clock, 'code');
    db.insert(codes)
      .values({ ...kept, id: made, createdAt: now })
      .run();
    return loadCode(db, made);
  }
  if (db.update(codes).set(kept).where(eq(codes.id, id)).run().changes === 0) throw notFound('This code');
  return loadCode(db, id);
}

/** Takes a code out of lists and out of use. Orders that used it stay as they are. */
export function archiveCode({ db, clock }: Needs, id: string): void {
  if (db.update(codes).set({ archivedAt: clock.now() }).where(eq(codes.id, id)).run().changes === 0) throw notFound('This code');
}

/** @throws Refusal 404 if there is no such code */
export function loadCode(db: Db, id: string): CodeRow {
  const row = db.select({ id: codes.id, terms: codes.terms, createdAt: codes.createdAt }).from(codes).where(eq(codes.id, id)).get();
  if (!row) throw notFound('This code');
  return {
    ...row,
    revision: revisionOf(row.terms),
    products: [...productLabels(db, scopeOf(row.terms)).values()],
    ...(broughtBy(db, [id]).get(id) ?? { uses: 0, paid: 0 }),
  };
}
