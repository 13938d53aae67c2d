import type { IncomingMessage } from 'node:http';
import { buyerOf, whoOf } from '../facts/who';
import type { Who } from '../funnel/live';
import type { Tracked } from '../tracking/recorder';
import { orderByToken } from './orderLink';

/** Who asks for a page. Whoever comes with an order is its buyer, in whatever browser: they stay in the arms in which they began it. */
export function whoAsks(services: Tracked, request: IncomingMessage, query: Record<string, unknown>): Who {
  const order = query.order === undefined ? undefined : orderByToken(services, query.order);
  return order ? buyerOf(services, order, request) : whoOf(services, request, query);
}
