import type { ListPage, ListQuery } from '@ruta/core/lists';
import { PAID_STATES } from '@ruta/core/orders';
import { type Earnings, NO_PROGRAM, type OrderPartner, PARTNER_PARAMETER, type Partner, type PartnerRow, type Program } from '@ruta/core/partners';
import { and, eq, inArray, type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { countRows, keyset, pageOf, searched } from '../base/list';
import { fieldRefusal, notFound } from '../base/problem';
import { revisionOf } from '../base/revision';
import type { Services } from '../base/services';
import { loadOrder } from '../orders/store';
import { orders } from '../orders/tables';
import { commissions, partnerProgram, partners } from './tables';

type Needs = Pick<Services, 'db' | 'clock' | 'config'>;
export type PartnerDocument = typeof partners.$inferSelect;

const NOTHING: Earnings = { orders: 0, earned: 0, held: 0, payable: 0, paidOut: 0 };
const SORTING = { columns: { created: partners.createdAt, name: partners.name }, id: partners.id };

export const findPartner = (db: Db, id: string): PartnerDocument | undefined => db.select().from(partners).where(eq(partners.id, id)).get();

/** Whose link it is; undefined for a code that nobody has. */
export const partnerByCode = (db: Db, code: string): PartnerDocument | undefined =>
  db.select().from(partners).where(eq(partners.code, code.trim().toLowerCase())).get();

export const loadProgram = (db: Db): Program => db.select().from(partnerProgram).get()?.program ?? NO_PROGRAM;

export function saveProgram({ db }: Pick<Services, 'db'>, program: Program): Program {
  db.insert(partnerProgram).values({ id: 1, program }).onConflictDoUpdate({ target: partnerProgram.id, set: { program } }).run();
  return program;
}

/** One page of the partners with what they have earned. */
export function listPartners(services: Needs, query: ListQuery): ListPage<PartnerRow> {
  const { db } = services;
  const key = keyset(SORTING, query);
  const rows = db
    .select()
    .from(partners)
    .where(and(filterOf(query), key.after))
    .orderBy(...key.order)
    .limit(key.limit)
    .all();
  const page = pageOf(rows, key, (row) => (query.sort === 'name' ? row.name : row.createdAt));
  return { next: page.next, rows: rowsOf(services, page.rows) };
}

export const countPartners = (db: Db, query: ListQuery): number => countRows(db, partners, filterOf(query));
const filterOf = ({ search }: ListQuery): SQL | undefined => searched(search, [partners.name, partners.email, partners.code]);

/** @throws Refusal 404 if there is no such partner */
export function loadPartner(services: Needs, id: string): PartnerRow {
  const found = findPartner(services.db, id);
  const [row] = found ? rowsOf(services, [found]) : [];
  if (!row) throw notFound('This partner');
  return row;
}

/** Adds a partner, or changes the one with this id. @throws Refusal at its field for a code that another has, or a ring of recruiters */
export function savePartner(services: Needs, id: string | null, partner: Partner): PartnerRow {
  const { db, clock } = services;
  const same = partnerByCode(db, partner.code);
  if (same && same.id !== id) throw fieldRefusal('code', `${same.name} has this code already. Choose another.`, 409);
  if (partner.recruitedBy) refuseRing(db, id, partner.recruitedBy);
  const kept = { code: partner.code, name: partner.name, email: partner.email, document: partner };
  if (id === null) {
    const made = newId(clock, 'partner');
    db.insert(partners)
      .values({ ...kept, id: made, createdAt: clock.now() })
      .run();
    return loadPartner(services, made);
  }
  if (db.update(partners).set(kept).where(eq(partners.id, id)).run().changes === 0) throw notFound('This partner');
  return loadPartner(services, id);
}

/** Nobody recruited themselves, by whatever way round. */
function refuseRing(db: Db, id: string | null, recruitedBy: string): void {
  for (let at: string | null = recruitedBy, steps = 0; at && steps < 100; steps++) {
    if (at === id) throw fieldRefusal('recruitedBy', 'They were recruited by this partner themselves. Choose somebody else.');
    const found: PartnerDocument | undefined = findPartner(db, at);
    if (!found) throw fieldRefusal('recruitedBy', 'This partner is not there any more. Choose somebody else.');
    at = found.document.recruitedBy;
  }
}

/** The short link of a partner. */
export const partnerLink = ({ config }: Pick<Services, 'config'>, code: string): string => `${config.siteUrl}/with/${code}`;
/** A path with what says whose link it is. */
export const withPartner = (path: string, code: string): string => `${path}?${PARTNER_PARAMETER}=${encodeURIComponent(code)}`;

function rowsOf(services: Needs, rows: readonly PartnerDocument[]): PartnerRow[] {
  const { db, clock } = services;
  const earnings = earningsOf(
    db,
    rows.map(({ id }) => id),
    clock.now(),
  );
  return rows.map(({ id, document, createdAt }) => ({
    id,
    partner: document,
    revision: revisionOf(document),
    link: partnerLink(services, document.code),
    recruiter: document.recruitedBy ? (findPartner(db, document.recruitedBy)?.name ?? null) : null,
    createdAt,
    ...(earnings.get(id) ?? NOTHING),
  }));
}

/** What partners have earned by now, by their id. */
export function earningsOf(db: Db, ids: readonly string[], now: number): Map<string, Earnings> {
  if (ids.length === 0) return new Map();
  const found = new Map<string, Earnings>(ids.map((id) => [id, NOTHING]));
  const sums = db
    .select({
      partnerId: commissions.partnerId,
      earned: sql<number>`sum(${commissions.amount})`,
      held: sql<number>`sum(CASE WHEN ${commissions.heldUntil} > ${now} THEN ${commissions.amount} - ${commissions.paidOut} ELSE 0 END)`,
      payable: sql<number>`sum(CASE WHEN ${commissions.heldUntil} <= ${now} THEN ${commissions.amount} - ${commissions.paidOut} ELSE 0 END)`,
      paidOut: sql<number>`sum(${commissions.paidOut})`,
    })
    .from(commissions)
    .where(inArray(commissions.partnerId, [...ids]))
    .groupBy(commissions.partnerId)
    .all();
  for (const { partnerId, ...sum } of sums) found.set(partnerId, { ...NOTHING, ...sum });
  const brought = db
    .select({ partnerId: orders.partnerId, orders: sql<number>`count(*)` })
    .from(orders)
    .where(and(inArray(orders.partnerId, [...ids]), inArray(orders.state, [...PAID_STATES]), eq(orders.mode, 'live'), sql`${orders.total} > 0`))
    .groupBy(orders.partnerId)
    .all();
  for (const { partnerId, orders: count } of brought) found.set(partnerId ?? '', { ...(found.get(partnerId ?? '') ?? NOTHING), orders: count });
  return found;
}

/** Who brought the buyer of an order, and what it has earned partners of both tiers. @throws Refusal 404 if there is no such order */
export function partnerOfOrder(db: Db, orderId: string): OrderPartner {
  const { partnerId } = loadOrder(db, orderId);
  const found = partnerId === null ? undefined : findPartner(db, partnerId);
  const earned = db
    .select({ sum: sql<number>`coalesce(sum(${commissions.amount}), 0)` })
    .from(commissions)
    .where(eq(commissions.orderId, orderId))
    .get();
  return { partner: found ? { id: found.id, name: found.name } : null, commission: earned?.sum ?? 0 };
}
