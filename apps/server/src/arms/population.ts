import type { Goal } from '@ruta/core/experiments';
import { shiftDay } from '@ruta/core/reports';
import { dayFinder, startOfDay } from '@ruta/core/shop';
import { type SQL, sql } from 'drizzle-orm';
import { type FoundBy, REFUNDED, soldLines } from '../reports/scope';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';

/** Those who are counted: `visitor_id`, `arm_id`, `first_at`, `day` and `device` of each, once. */
export interface Population {
  rows: SQL;
  funnelId: string;
  /** The stop whose goal counts where people are to go on. */
  stepId: string;
  /** From and until when what they do counts, Unix milliseconds. */
  from: number;
  until: number;
}

/** Which visitors are meant: a condition on the column that names them. */
export type Which = (visitor: SQL) => SQL;

/** What one visitor did who bought, in net minor units. */
export interface Buyer {
  visitorId: string;
  armId: string;
  day: string;
  device: string;
  net: number;
  refunded: number;
  orders: number;
  withBump: number;
  withAddition: number;
  refundedOrders: number;
}

const scopeOf = ({ funnelId, from, until }: Population): Parameters<typeof soldLines>[0] => ({ from, until, funnelId, orderIds: null });

/**
 * What each visitor bought in the funnel after they were first counted, bumps and additions included, as a query of rows like
 * `Buyer`. It is payments that count: whoever is first counted at an offer has paid for their order before, in every arm alike.
 * @param which of the visitors
 * @param foundBy how their sales are looked up: by their own orders where the visitors are few
 */
export function boughtBy(population: Population, which: Which, foundBy: FoundBy): SQL {
  const payments = sql`SELECT o.visitor_id, o.id AS order_id, p.id AS payment_id, p.paid_at, sum(l.net) AS net, sum(${REFUNDED}) AS refunded,
      max(l.role = 'bump') AS bump, max(l.role IN ('upsell', 'downsell')) AS addition
    FROM ${soldLines(scopeOf(population), false, foundBy)} AND ${which(sql`o.visitor_id`)} GROUP BY p.id`;
  return sql`
    WITH who AS (${population.rows}), paid AS (${payments}),
    sold AS (
      SELECT who.visitor_id, who.arm_id, who.day, who.device, sum(paid.net) AS net, sum(paid.refunded) AS refunded, max(paid.bump) AS bump, max(paid.addition) AS addition
      FROM paid JOIN who ON who.visitor_id = paid.visitor_id AND paid.paid_at >= who.first_at
      GROUP BY who.visitor_id, paid.order_id
    )
    SELECT visitor_id AS visitorId, arm_id AS armId, day, device, sum(net) AS net, sum(refunded) AS refunded,
      count(*) AS orders, sum(bump) AS withBump, sum(addition) AS withAddition, sum(refunded > 0) AS refundedOrders
    FROM sold GROUP BY visitor_id`;
}

/** The same, asked for. */
export const buyersOf = ({ db }: Pick<Looking, 'db'>, population: Population): Buyer[] =>
  db.all<Buyer>(boughtBy(population, (visitor) => sql`${visitor} IS NOT NULL`, 'days'));

/** How many came, and how many of them reached a goal that is not a sale, by arm, day and device. */
export function reachedBy(
  { db, recorder }: Pick<Looking, 'db' | 'recorder'>,
  { rows, funnelId, stepId, until }: Population,
  goal: Goal,
): Array<{ armId: string; day: string; device: string; visitors: number; reached: number; leads: number }> {
  const { generation } = recorder.rollUps;
  // Whoever had reached it before they were first counted, at an earlier visit, reaches nothing by it.
  const reached = goal === 'next' ? sql`sum(at_step.goal_at >= who.first_at AND at_step.goal_at < ${until})` : sql`0`;
  return db.all(sql`
    WITH who AS (${rows})
    SELECT who.arm_id AS armId, who.day AS day, who.device AS device, count(*) AS visitors, coalesce(${reached}, 0) AS reached,
      coalesce(sum(at_funnel.lead_at >= who.first_at AND at_funnel.lead_at < ${until}), 0) AS leads
    FROM who
    LEFT JOIN place_visitors at_funnel ON at_funnel.generation = ${generation} AND at_funnel.place_id = ${funnelId} AND at_funnel.visitor_id = who.visitor_id
    LEFT JOIN place_visitors at_step ON at_step.generation = ${generation} AND at_step.place_id = ${stepId} AND at_step.visitor_id = who.visitor_id
    GROUP BY 1, 2, 3`);
}

/** So many days a test looks back on to be planned, today the last of them: a shop may begin on its first day. */
const LOOKED_BACK = 28;

/** Those who came to some stops in the last weeks, each once, by their first view. */
export function earlierPopulation({ db, clock, recorder }: Looking, funnelId: string, stepId: string, stops: readonly string[]): Population & { days: number } {
  const { timeZone } = loadShop(db).settings;
  const now = clock.now();
  const today = dayFinder(timeZone)(now);
  const from = shiftDay(today, 1 - LOOKED_BACK);
  const places = sql.join(
    (stops.length > 0 ? stops : [stepId]).map((id) => sql`${id}`),
    sql`, `,
  );
  const { generation } = recorder.rollUps;
  const rows = sql`SELECT visitor_id, '' AS arm_id, min(first_at) AS first_at, min(day) AS day, max(device) AS device FROM place_visitors
    WHERE generation = ${generation} AND place_id IN (${places}) AND day >= ${from} GROUP BY visitor_id`;
  const first = db.get<{ day: string | null }>(sql`SELECT min(day) AS day FROM place_days WHERE generation = ${generation} AND place_id IN (${places})`)?.day;
  // A stop that is younger is reckoned by the days it has had.
  const begun = first && first > from ? first : from;
  const days = Math.max(1, Math.min(LOOKED_BACK, Math.round((Date.parse(today) - Date.parse(begun)) / 86_400_000) + 1));
  return { rows, funnelId, stepId, from: startOfDay(now - (days + 1) * 86_400_000, timeZone), until: now, days };
}
