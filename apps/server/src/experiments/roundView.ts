import { DRAWN, decideExperiment, type ExperimentResult, type ExperimentResultInput, experimentResult, type Goal, type Round } from '@ruta/core/experiments';
import { dayFinder } from '@ruta/core/shop';
import { and, eq, gt, sql } from 'drizzle-orm';
import type { RoundRow } from '../arms/store';
import { roundDays } from '../arms/tables';
import { revisionOf } from '../base/revision';
import { loadShop } from '../shop/store';
import type { Looking } from '../tracking/recorder';

/** Whether the last day of a round is over. */
export function isPastLastDay({ db, clock }: Pick<Looking, 'db' | 'clock'>, { terms }: Pick<RoundRow, 'terms'>): boolean {
  return terms.lastDay !== null && dayFinder(loadShop(db).settings.timeZone)(clock.now()) > terms.lastDay;
}

type Day = typeof roundDays.$inferSelect;

/** Who came to a round, and what they did there, as it was counted onward. */
const daysOf = ({ db }: Pick<Looking, 'db'>, { id }: RoundRow): Day[] =>
  db
    .select()
    .from(roundDays)
    .where(and(eq(roundDays.roundId, id), gt(roundDays.visitors, 0)))
    .all();

/**
 * A round as its statistics take it.
 * @param most of each arm the buyers who brought most, so many of them, are listed; nobody where only sums are asked for
 */
function askedOf(services: Looking, round: RoundRow, days: readonly Day[], most: number): ExperimentResultInput {
  const { terms, arms, valid, endedAt } = round;
  const counts = countsBy(terms.goal, days);
  return {
    goal: terms.goal === 'revenue' ? 'revenue' : 'conversion',
    arms: arms.map(({ id, name, share }) => {
      const { visitors, converted } = counts(keyOf({ armId: id }));
      return { name, share, visitors, converted, ...revenuesOf(services, round.id, id, days, most) };
    }),
    difference: terms.difference,
    isOver: endedAt !== null || isPastLastDay(services, { terms }),
    // What was kept without its direction says nothing of either.
    ...(valid.length === arms.length ? { before: valid.map((kept) => (typeof kept === 'number' ? { better: 1, worse: 1 } : kept)) } : {}),
    seed: 1,
  };
}

/** What each of those brought who brought most, and all others added up; minor units. */
function revenuesOf({ db }: Pick<Looking, 'db'>, roundId: string, armId: string, days: readonly Day[], most: number) {
  const brought = sql`net - refunded`;
  const revenues = db
    .all<{ value: number }>(
      sql`SELECT ${brought} AS value FROM round_visitors WHERE round_id = ${roundId} AND arm_id = ${armId} AND orders > 0 ORDER BY ${brought} DESC LIMIT ${most}`,
    )
    .map(({ value }) => value);
  const own = days.filter((day) => day.armId === armId);
  const left = (of: (day: Day) => number, listed: (value: number) => number) => total(own, of) - total(revenues, listed);
  const others = {
    count: left(
      ({ buyers }) => buyers,
      () => 1,
    ),
    sum: left(gain, (value) => value),
    squares: left(
      ({ squares }) => squares,
      (value) => value ** 2,
    ),
  };
  return others.count > 0 ? { revenues, others } : { revenues };
}

/** What decides a round as it stands, without everything that is only shown. */
export const decisionOf = (services: Looking, round: RoundRow): ReturnType<typeof decideExperiment> =>
  decideExperiment(askedOf(services, round, daysOf(services, round), 0));

/** Everything that is counted of a round, and what may be concluded from it. */
export function roundView(services: Looking, round: RoundRow): Round {
  const { terms, arms } = round;
  const days = daysOf(services, round);
  const counts = countsBy(terms.goal, days);
  const of = (key: 'day' | 'device') => [...new Set(days.map((row) => row[key]))].sort();
  const byArm = (where: { day?: string; device?: string }) => arms.map(({ id }) => ({ armId: id, ...counts(keyOf({ armId: id, ...where })) }));
  return {
    id: round.id,
    number: round.number,
    startedAt: round.startedAt,
    endedAt: round.endedAt,
    outcome: round.outcome,
    why: round.why,
    planned: { difference: terms.difference, perArm: terms.perArm, visitors: terms.visitors, weeks: terms.weeks },
    lastDay: terms.lastDay,
    arms: arms.map(({ id, name, share }) => ({ id, name, share })),
    result: resultOf(round.id, askedOf(services, round, days, DRAWN)),
    guards: arms.map(({ id }) => guardOf(id, days)),
    days: of('day').map((day) => ({ day, arms: byArm({ day }) })),
    devices: of('device').map((device) => ({ device, arms: byArm({ device }) })),
  };
}

/** Of whom something is counted: of an arm, or of it on a day or a device. */
const keyOf = ({ armId, day = '', device = '' }: { armId: string; day?: string; device?: string }) => `${armId}|${day}|${device}`;
const keysOf = ({ armId, day, device }: Day) => [keyOf({ armId }), keyOf({ armId, day }), keyOf({ armId, device })];

/** What buyers brought, what was given back taken off; minor units. */
const gain = ({ net, refunded }: Day) => net - refunded;
const total = <T>(rows: readonly T[], of: (row: T) => number) => rows.reduce((sum, row) => sum + of(row), 0);

/** What of a day counts as reaching each goal. */
const REACHED: Record<Goal, (day: Day) => number> = {
  next: ({ reached }) => reached,
  leads: ({ leads }) => leads,
  sales: ({ buyers }) => buyers,
  revenue: ({ buyers }) => buyers,
};

/** How many came, reached the goal and brought how much, of every arm, whole and by day and device, in one pass over them. */
function countsBy(goal: Goal, days: readonly Day[]) {
  const all = new Map<string, { visitors: number; converted: number; revenue: number }>();
  const counts = (key: string) => all.get(key) ?? { visitors: 0, converted: 0, revenue: 0 };
  for (const day of days) {
    for (const key of keysOf(day)) {
      const { visitors, converted, revenue } = counts(key);
      all.set(key, { visitors: visitors + day.visitors, converted: converted + REACHED[goal](day), revenue: revenue + gain(day) });
    }
  }
  return counts;
}

/** What is to be watched beside the goal. */
function guardOf(armId: string, days: readonly Day[]): Round['guards'][number] {
  const own = days.filter((day) => day.armId === armId);
  const orders = total(own, (day) => day.orders);
  return {
    armId,
    orders,
    orderValue: orders === 0 ? null : total(own, gain) / orders,
    bumps: total(own, (day) => day.withBump),
    additions: total(own, (day) => day.withAddition),
    refundedOrders: total(own, (day) => day.refundedOrders),
    refunded: total(own, (day) => day.refunded),
    leads: total(own, (day) => day.leads),
  };
}

/** What may be concluded; the same as a moment ago where nothing was counted since. */
function resultOf(roundId: string, asked: ExperimentResultInput): ExperimentResult {
  const key = revisionOf(asked);
  const known = lately.get(roundId);
  if (known?.key === key) return known.result;
  const result = experimentResult(asked);
  if (lately.size >= MOST_LATELY) lately.clear();
  lately.set(roundId, { key, result });
  return result;
}

/** What was concluded lately: sampling takes longer than looking whether anything was counted since. */
const lately = new Map<string, { key: string; result: ExperimentResult }>();
const MOST_LATELY = 200;
