import { and, asc, eq, gt, type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { loadOrder } from '../orders/store';
import type { RollUps } from '../tracking/rollUps';
import { boughtBy, type Population, type Which } from './population';
import type { RoundRow } from './store';
import { experiments, rounds, roundVisitors } from './tables';

/** Whoever counts onward: in the transaction of what has happened. */
interface Needs {
  db: Db;
  recorder: { rollUps: Pick<RollUps, 'generation'> };
}

type Counted = Pick<RoundRow, 'id' | 'funnelId' | 'startedAt' | 'endedAt' | 'terms'> & { stepId: string };

/** So many visitors are counted anew before buyers are answered in between. */
const SLICE = 500;
const pause = () => new Promise<void>((resolve) => setImmediate(resolve));

const countedColumns = { id: rounds.id, funnelId: rounds.funnelId, startedAt: rounds.startedAt, endedAt: rounds.endedAt, terms: rounds.terms };

/** A moment that never comes. */
const NEVER = Number.MAX_SAFE_INTEGER;

/**
 * Counts what visitors of a round did since they were first seen in it, and keeps it beside them.
 * @param which of them
 */
function countWhatTheyDid({ db, recorder }: Needs, { id, funnelId, stepId, startedAt, endedAt, terms }: Counted, which: Which): void {
  const { generation } = recorder.rollUps;
  const ofRound = sql`round_visitors.round_id = ${id} AND ${which(sql`round_visitors.visitor_id`)}`;
  const population: Population = {
    rows: sql`SELECT visitor_id, arm_id, first_at, day, device FROM round_visitors WHERE ${ofRound}`,
    funnelId,
    stepId,
    from: startedAt,
    until: endedAt === null ? NEVER : endedAt + 1,
  };
  // Whoever had reached it before they were first counted, at an earlier visit, reaches nothing by it.
  const since = (place: string, moment: SQL) => sql`coalesce((
    SELECT ${moment} >= round_visitors.first_at AND ${moment} < ${population.until} FROM place_visitors
    WHERE generation = ${generation} AND place_id = ${place} AND visitor_id = round_visitors.visitor_id), 0)`;
  const reached = terms.goal === 'next' ? since(stepId, sql`place_visitors.goal_at`) : sql`0`;
  db.run(sql`UPDATE round_visitors SET reached = ${reached}, leads = ${since(funnelId, sql`place_visitors.lead_at`)},
    net = 0, refunded = 0, orders = 0, with_bump = 0, with_addition = 0, refunded_orders = 0
    WHERE ${ofRound}`);
  db.run(sql`UPDATE round_visitors SET net = bought.net, refunded = bought.refunded, orders = bought.orders,
      with_bump = bought.withBump, with_addition = bought.withAddition, refunded_orders = bought.refundedOrders
    FROM (${boughtBy(population, which, 'orders')}) AS bought
    WHERE ${ofRound} AND round_visitors.visitor_id = bought.visitorId`);
}

/** What is added up of visitors, by the column of a day that keeps it. */
const SUMS = {
  visitors: sql`1`,
  reached: sql`reached`,
  leads: sql`leads`,
  buyers: sql`orders > 0`,
  net: sql`net`,
  refunded: sql`refunded`,
  // Real numbers: whole ones have an end.
  squares: sql`CAST(net - refunded AS REAL) * (net - refunded)`,
  orders: sql`orders`,
  with_bump: sql`with_bump`,
  with_addition: sql`with_addition`,
  refunded_orders: sql`refunded_orders`,
};
const list = (of: (column: SQL, value: SQL) => SQL) =>
  sql.join(
    Object.entries(SUMS).map(([column, value]) => of(sql.raw(column), value)),
    sql`, `,
  );
const DAY = sql`round_id, arm_id, day, device`;
const intoDays = sql`INSERT INTO round_days (${DAY}, ${list((column) => column)})`;
const added = sql`ON CONFLICT (${DAY}) DO UPDATE SET ${list((column) => sql`${column} = ${column} + excluded.${column}`)}`;

/** Adds a visitor to the days of a round as they stand just now, or takes them off. */
function countDay(db: Db, roundId: string, visitorId: string, by: 1 | -1): void {
  db.run(sql`${intoDays} SELECT ${DAY}, ${list((_column, value) => sql`(${value}) * ${by}`)} FROM round_visitors
    WHERE round_id = ${roundId} AND visitor_id = ${visitorId} ${added}`);
}

/** Counts one visitor of a round onward. @param change what becomes known of them, if they are not only to be counted anew */
export function tallyVisitor(needs: Needs, roundId: string, visitorId: string, change: () => void = () => {}): void {
  const { db } = needs;
  const round = countedRounds(db, eq(rounds.id, roundId)).get();
  if (!round) return;
  countDay(db, roundId, visitorId, -1);
  change();
  countWhatTheyDid(needs, round, (visitor) => sql`${visitor} = ${visitorId}`);
  countDay(db, roundId, visitorId, 1);
}

/** Counts a visitor onward in every round of a funnel in which they were seen. */
export function tallyInFunnel(needs: Needs, funnelId: string, visitorId: string): void {
  const seen = needs.db.all<{ id: string }>(sql`SELECT r.id FROM rounds r JOIN round_visitors v ON v.round_id = r.id AND v.visitor_id = ${visitorId}
    WHERE r.funnel_id = ${funnelId}`);
  for (const { id } of seen) tallyVisitor(needs, id, visitorId);
}

/** Counts onward what an order has become by what was paid or given back. */
export function tallyOrder(needs: Needs, orderId: string): void {
  const { funnelId, visitorId, mode } = loadOrder(needs.db, orderId);
  if (visitorId !== null && mode === 'live') tallyInFunnel(needs, funnelId, visitorId);
}

const countedRounds = (db: Db, which: SQL | undefined) =>
  db
    .select({ ...countedColumns, stepId: experiments.stepId })
    .from(rounds)
    .innerJoin(experiments, eq(experiments.id, rounds.experimentId))
    .where(which);

/** Counts a round whole, from what stands in the log's roll-ups and on payments: in slices, while the shop sells. */
async function tallyRound(needs: Needs, round: Counted): Promise<void> {
  const { db } = needs;
  // A server that ends on the way begins anew at its next start.
  db.update(rounds).set({ isTallied: false }).where(eq(rounds.id, round.id)).run();
  for (let after = ''; ; ) {
    const slice = db
      .select({ id: roundVisitors.visitorId })
      .from(roundVisitors)
      .where(and(eq(roundVisitors.roundId, round.id), gt(roundVisitors.visitorId, after)))
      .orderBy(asc(roundVisitors.visitorId))
      .limit(SLICE)
      .all();
    const [from, last] = [after, slice.at(-1)?.id];
    if (last === undefined) break;
    db.transaction(() => countWhatTheyDid(needs, round, (visitor) => sql`${visitor} > ${from} AND ${visitor} <= ${last}`));
    after = last;
    await pause();
  }
  // What came in meanwhile stands at its visitor, and is added up with everybody.
  db.transaction(() => {
    db.run(sql`DELETE FROM round_days WHERE round_id = ${round.id}`);
    db.run(sql`${intoDays} SELECT ${DAY}, ${list((_column, value) => sql`sum(${value})`)} FROM round_visitors WHERE round_id = ${round.id} GROUP BY ${DAY}`);
    db.update(rounds).set({ isTallied: true }).where(eq(rounds.id, round.id)).run();
  });
}

/** Counts rounds whole: those that an earlier release left uncounted, or all of them once the figures were made anew. */
export async function tallyRounds(needs: Needs, which: 'uncounted' | 'all'): Promise<void> {
  const found = countedRounds(needs.db, which === 'all' ? undefined : eq(rounds.isTallied, false)).all();
  for (const round of found) await tallyRound(needs, round);
}
