import { type Condition, type Matches, truthOf } from '@ruta/core/conditions';
import { and, desc, eq, gte, isNotNull } from 'drizzle-orm';
import { isPaid } from '../orders/store';
import { orders } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import { visitorOf } from '../tracking/visitorOf';
import { gatherFacts } from './gather';

const DAY_MS = 24 * 60 * 60 * 1000;
const SINCE_DAYS = 90;
const MOST_BUYERS = 1000;
/** So many are looked at before visitors are answered in between. */
const SLICE = 40;

/**
 * For how many buyers of the last 90 days a condition would have held: each is asked with what is known of their latest
 * order, at the moment they paid it. Works in small slices, so that nobody waits for it.
 */
export async function matchesOf(services: Tracked, condition: Condition): Promise<Matches> {
  const { db, clock } = services;
  const rows = db
    .select()
    .from(orders)
    .where(and(isPaid, eq(orders.mode, 'live'), isNotNull(orders.number), gte(orders.paidAt, clock.now() - SINCE_DAYS * DAY_MS)))
    .orderBy(desc(orders.paidAt))
    .limit(MOST_BUYERS * 2)
    .all();
  const latest = [...new Map(rows.toReversed().map((order) => [order.contactId ?? order.id, order])).values()].slice(-MOST_BUYERS);
  const found = { buyers: latest.length, matched: 0, unknown: 0, capped: latest.length === MOST_BUYERS };
  for (const [index, order] of latest.entries()) {
    if (index % SLICE === SLICE - 1) await new Promise((resolve) => setImmediate(resolve));
    const visitor = visitorOf(services, order);
    const truth = truthOf(condition, gatherFacts(services, { order, visitor, at: order.paidAt ?? clock.now() }));
    if (truth === true) found.matched++;
    else if (truth === undefined) found.unknown++;
  }
  return found;
}
