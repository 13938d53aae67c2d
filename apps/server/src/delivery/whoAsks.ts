import type { IncomingMessage } from 'node:http';
import { buyerOf, whoOf } from '../facts/who';
import type { Who } from '../funnel/live';
import type { Tracked } from '../tracking/recorder';
import { visitorIdOf } from '../tracking/visitor';
import { orderByToken } from './orderView';

/** Who asks for a page. Whoever comes with an order is its buyer, in whatever browser: they stay in the arms in which they began it. */
export function whoAsks(services: Tracked, request: IncomingMessage, query: Record<string, unknown>, visitorId = visitorIdOf(request) ?? null): Who {
  const order = query.order === undefined ? undefined : orderByToken(services, query.order);
  return order ? buyerOf(services, order, visitorId) : whoOf(services, request, query, visitorId);
}
