import { decideExperiment, type ExperimentResult, type ExperimentResultInput, experimentResult, type Round } from '@ruta/core/experiments';
import { dayFinder } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import type { ExperimentRow, RoundRow } from '../arms/store';
import { revisionOf } from '../base/revision';
import { loadShop } from '../shop/store';
import type { Tracked } from '../tracking/recorder';
import { type Buyer, buyersOf, type Population, reachedBy } from './population';

/** Whether the last day of a round is over. */
export function isPastLastDay({ db, clock }: Pick<Tracked, 'db' | 'clock'>, { terms }: Pick<RoundRow, 'terms'>): boolean {
  return terms.lastDay !== null && dayFinder(loadShop(db).settings.timeZone)(clock.now()) > terms.lastDay;
}

/** Who came to a round, and what they did there. */
function countedOf(services: Tracked, experiment: Pick<ExperimentRow, 'funnelId' | 'stepId'>, round: RoundRow) {
  const population: Population = {
    rows: sql`SELECT visitor_id, arm_id, first_at, day, device FROM round_visitors WHERE round_id = ${round.id}`,
    funnelId: experiment.funnelId,
    stepId: experiment.stepId,
    from: round.startedAt,
    until: round.endedAt ?? services.clock.now() + 1,
  };
  const { goal } = round.terms;
  const came = reachedBy(services, population, goal);
  const bought = buyersOf(services, population);
  const counts = (of: Where) => countsOf(goal, came.filter(matching(of)), bought.filter(matching(of)));
  return { came, bought, counts };
}

/** A round as its statistics take it. */
function askedOf(services: Tracked, { terms, arms, valid, endedAt }: RoundRow, { bought, counts }: ReturnType<typeof countedOf>): ExperimentResultInput {
  return {
    goal: terms.goal === 'revenue' ? 'revenue' : 'conversion',
    arms: arms.map(({ id, name, share }) => {
      const { visitors, converted } = counts({ armId: id });
      return { name, share, visitors, converted, revenues: bought.filter(({ armId }) => armId === id).map(gain) };
    }),
    difference: terms.difference,
    isOver: endedAt !== null || isPastLastDay(services, { terms }),
    ...(valid.length === arms.length ? { before: valid } : {}),
    seed: 1,
  };
}

/** What decides a round as it stands, without everything that is only shown. */
export function decisionOf(services: Tracked, experiment: Pick<ExperimentRow, 'funnelId' | 'stepId'>, round: RoundRow): ReturnType<typeof decideExperiment> {
  return decideExperiment(askedOf(services, round, countedOf(services, experiment, round)));
}

/** Everything that is counted of a round, and what may be concluded from it. */
export function roundView(services: Tracked, experiment: Pick<ExperimentRow, 'funnelId' | 'stepId'>, round: RoundRow): Round {
  const { terms, arms } = round;
  const counted = countedOf(services, experiment, round);
  const { came, bought, counts } = counted;
  const of = (key: 'day' | 'device') => [...new Set(came.map((row) => row[key]))].sort();
  const byArm = (where: { day?: string; device?: string }) => arms.map(({ id }) => ({ armId: id, ...counts({ armId: id, ...where }) }));
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
    result: resultOf(round.id, askedOf(services, round, counted)),
    guards: arms.map(({ id }) => guardOf(id, came.filter(matching({ armId: id })), bought.filter(matching({ armId: id })))),
    days: of('day').map((day) => ({ day, arms: byArm({ day }) })),
    devices: of('device').map((device) => ({ device, arms: byArm({ device }) })),
  };
}

type Where = { armId: string; day?: string; device?: string };
const matching =
  ({ armId, day, device }: Where) =>
  (row: { armId: string; day: string; device: string }) =>
    row.armId === armId && (day === undefined || row.day === day) && (device === undefined || row.device === device);

type Came = ReturnType<typeof reachedBy>;
/** What a buyer brought, what was given back taken off; minor units. */
const gain = ({ net, refunded }: Buyer) => net - refunded;
const total = <T>(rows: readonly T[], of: (row: T) => number) => rows.reduce((sum, row) => sum + of(row), 0);

function countsOf(goal: RoundRow['terms']['goal'], came: Came, bought: readonly Buyer[]) {
  const converted = goal === 'next' ? total(came, (row) => row.reached) : goal === 'leads' ? total(came, (row) => row.leads) : bought.length;
  return { visitors: total(came, (row) => row.visitors), converted, revenue: total(bought, gain) };
}

/** What is to be watched beside the goal. */
function guardOf(armId: string, came: Came, bought: readonly Buyer[]): Round['guards'][number] {
  const orders = total(bought, (buyer) => buyer.orders);
  return {
    armId,
    orders,
    orderValue: orders === 0 ? null : total(bought, gain) / orders,
    bumps: total(bought, (buyer) => buyer.withBump),
    additions: total(bought, (buyer) => buyer.withAddition),
    refundedOrders: total(bought, (buyer) => buyer.refundedOrders),
    refunded: total(bought, (buyer) => buyer.refunded),
    leads: total(came, (row) => row.leads),
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
