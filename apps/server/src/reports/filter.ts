import { type Condition, questionsOf, truthOf } from '@ruta/core/conditions';
import type { Campaign, Device, FactTest } from '@ruta/core/facts';
import type { OrderState } from '@ruta/core/orders';
import type { DimensionName } from '@ruta/core/reports';
import { type SQL, sql } from 'drizzle-orm';
import { gatherFacts, type KnownOrder, type KnownVisitor } from '../facts/gather';
import { manyLookups } from '../facts/manyLookups';
import type { Looking } from '../tracking/recorder';
import { countsGifts } from './sales';
import type { Scope } from './scope';

/** An order with its visitor as the database has it. What is JSON is read only if it is asked for: most filters ask for little. */
interface Row {
  id: string;
  contactId: string | null;
  state: OrderState;
  total: number;
  paidAt: number;
  buyer?: string;
  campaign?: string | null;
  visitorId?: string | null;
  countsAs?: string | null;
  knownAs?: string | null;
  typed?: string | null;
  firstCampaign?: string | null;
  lastCampaign?: string | null;
  device?: string | null;
  visits?: number;
}

const parsed = <Value>(text: string | null | undefined): Value | null => (text == null ? null : (JSON.parse(text) as Value));

const orderOf = (row: Row): KnownOrder => ({
  id: row.id,
  contactId: row.contactId,
  mode: 'live',
  state: row.state,
  total: row.total,
  get buyer() {
    return (parsed(row.buyer) ?? {}) as KnownOrder['buyer'];
  },
  get campaign() {
    return parsed<Campaign>(row.campaign);
  },
});

const visitorOf = (row: Row): KnownVisitor | null =>
  row.visitorId == null
    ? null
    : {
        id: row.visitorId,
        countsAs: row.countsAs ?? null,
        contactId: row.knownAs ?? null,
        device: row.device as Device,
        visits: row.visits ?? 1,
        get typed() {
          return parsed<NonNullable<KnownVisitor['typed']>>(row.typed);
        },
        get firstCampaign() {
          return parsed<Campaign>(row.firstCampaign);
        },
        get lastCampaign() {
          return parsed<Campaign>(row.lastCampaign);
        },
      };

/** Where the answer to a question about a fact is found beside the order itself; what neither needs is not read for thousands of orders. */
const FOUND_IN = {
  bought: null,
  owned: null,
  declined: null,
  orderTotal: null,
  code: null,
  paymentMethod: null,
  shippingMethod: null,
  country: 'buyer',
  shippingCountry: null,
  tag: null,
  answer: null,
  campaign: 'visitor',
  source: 'visitor',
  device: 'visitor',
  language: null,
  returning: 'visitor',
  saw: 'visitor',
  openedCheckout: 'visitor',
  hour: null,
  weekday: null,
  date: null,
} as const satisfies Record<FactTest['fact'], 'buyer' | 'visitor' | null>;

const VISITOR = sql`v.id AS visitorId, v.counts_as AS countsAs, v.contact_id AS knownAs, v.typed, v.first_campaign AS firstCampaign, v.last_campaign AS lastCampaign, v.device, v.visits`;

/** Of which orders a report with a filter asks: those that can be in it at all. */
function candidates(by: DimensionName, { from, until }: Pick<Scope, 'from' | 'until'>): SQL {
  switch (by) {
    case 'offer':
      return sql`SELECT order_id FROM offer_showings WHERE shown_at >= ${from} AND shown_at < ${until}`;
    case 'cohort':
      return sql`SELECT order_id FROM plans WHERE bought_at >= ${from} AND bought_at < ${until}`;
    default:
      // Orders of nothing only where they are counted: in a shop that collects addresses they are most.
      return sql`SELECT p.order_id FROM payments p WHERE +p.state = 'paid' AND p.paid_at >= ${from} AND p.paid_at < ${until} ${countsGifts(by) ? sql`` : sql`AND p.amount > 0`}`;
  }
}

/**
 * The orders of a period for which a condition held when they were paid, by what is known of their buyer. Orders and
 * visitors are read at once, and so is what dearer questions ask, once it is asked.
 * @returns their ids as JSON
 */
export function ordersFor(services: Looking, filter: Condition, by: DimensionName, period: Pick<Scope, 'from' | 'until'>): string {
  const { db } = services;
  services.recorder.flush();
  const needed = new Set(questionsOf(filter).map(({ fact }) => FOUND_IN[fact]));
  const ofVisitor = needed.has('visitor');
  const paid = db.all<Row>(
    sql`SELECT o.id, o.contact_id AS contactId, o.state, o.total, o.paid_at AS paidAt
          ${needed.has('buyer') ? sql`, o.buyer` : sql``} ${ofVisitor ? sql`, o.campaign, ${VISITOR}` : sql``}
        FROM orders o ${ofVisitor ? sql`LEFT JOIN visitors v ON v.id = o.visitor_id` : sql``}
        WHERE +o.mode = 'live' AND o.paid_at IS NOT NULL AND o.id IN (${candidates(by, period)})`,
  );
  const look = manyLookups(db, JSON.stringify(paid.map(({ id }) => id)));
  const ids = paid.flatMap((row) => {
    const known = { order: orderOf(row), visitor: visitorOf(row), at: row.paidAt };
    return truthOf(filter, gatherFacts(services, known, look)) === true ? [row.id] : [];
  });
  return JSON.stringify(ids);
}
