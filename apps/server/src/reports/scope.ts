import type { Condition } from '@ruta/core/conditions';
import { PAID_STATES } from '@ruta/core/orders';
import type { VisitName } from '@ruta/core/reports';
import type { Mode } from '@ruta/core/shop';
import { type SQL, sql } from 'drizzle-orm';
import type { Looking } from '../tracking/recorder';

/** What a report is of: a period in Unix milliseconds (`until` excluded), perhaps one funnel, perhaps only some orders. */
export interface Scope {
  from: number;
  until: number;
  /** The same in days of the shop's calendar, both included. */
  days: { from: string; to: string };
  funnelId: string | undefined;
  filter: Condition | undefined;
  /** The ids of the orders that the filter leaves, as JSON; null without one. */
  orderIds: string | null;
  /** By which visit campaigns are told apart, and of which roll-ups visitors are read. */
  visit: VisitName;
  generation: number;
}

/** A period of the whole shop, or of one funnel, of everybody. */
export const wholeScope = (
  { recorder }: Pick<Looking, 'recorder'>,
  period: Pick<Scope, 'from' | 'until' | 'days'> & Partial<Pick<Scope, 'funnelId'>>,
): Scope => ({ funnelId: undefined, ...period, filter: undefined, orderIds: null, visit: 'first', generation: recorder.rollUps.generation });

const LIVE: Mode = 'live';
const paidStates = sql.join(
  PAID_STATES.map((state) => sql`${state}`),
  sql`, `,
);

/**
 * Live orders that were paid, of a scope; `o` stands for the table of orders. A plus keeps SQLite from looking them up by what
 * nearly all of them have, or by their funnel, which may be nearly all of them, too: what is asked for is always some days.
 */
const isCounted = ({ funnelId, orderIds }: Pick<Scope, 'funnelId' | 'orderIds'>): SQL =>
  sql`+o.mode = ${LIVE} AND o.state IN (${paidStates}) ${funnelId ? sql`AND +o.funnel_id = ${funnelId}` : sql``} ${
    orderIds === null ? sql`` : sql`AND o.id IN (SELECT value FROM json_each(${orderIds}))`
  }`;

/** What of a scope says which sales are counted. */
type Counted = Pick<Scope, 'from' | 'until' | 'funnelId' | 'orderIds'>;

/** How sales are looked up: by the days of a period, or from orders that are few for another reason, whatever the planner knows. */
export type FoundBy = 'days' | 'orders';

/** The payments that were paid in the period: `p` stands for them, `o` for their orders; `joined` for what is joined to them. */
export const soldPayments = (scope: Counted, joined: SQL = sql``, foundBy: FoundBy = 'days'): SQL => {
  const paidAt = foundBy === 'days' ? sql`p.paid_at` : sql`+p.paid_at`;
  return sql`payments p
  JOIN orders o ON o.id = p.order_id ${joined}
  WHERE +p.state = 'paid' AND ${paidAt} >= ${scope.from} AND ${paidAt} < ${scope.until} AND ${isCounted(scope)}`;
};

/**
 * The lines whose payment was paid in the period, without shipping and without the parts of bundles, whose money is on the
 * bundle: `l` stands for lines, `p` for payments, `o` for orders, `v` for the buyer's visitor.
 * @param withGifts whether what was given for nothing is among them: most of the rows of a shop that collects addresses, and
 * no money
 */
export const soldLines = (scope: Counted, withGifts: boolean, foundBy: FoundBy = 'days'): SQL =>
  sql`${soldPayments(scope, sql`JOIN order_lines l ON l.payment_id = p.id LEFT JOIN visitors v ON v.id = o.visitor_id`, foundBy)} AND l.role <> 'shipping' AND l.part_of IS NULL
  ${withGifts ? sql`` : sql`AND p.amount > 0`}`;

/** The orders above 0 that were paid in the period. */
export const soldOrders = (scope: Counted): SQL => sql`orders o
  LEFT JOIN visitors v ON v.id = o.visitor_id
  WHERE o.paid_at >= ${scope.from} AND o.paid_at < ${scope.until} AND o.total > 0 AND ${isCounted(scope)}`;

/** What of a line was given back without tax, as refunds and commissions have it; minor units. */
export const REFUNDED = sql`l.refunded_net`;

/** Days are found by quarters of an hour: SQL knows no time zones, and no zone shifts by less. */
export const QUARTER_MS = 15 * 60 * 1000;
