import type { IncomingMessage } from 'node:http';
import type { Who } from '../funnel/live';
import type { OrderRow } from '../orders/store';
import { browserIdsOf } from '../tracking/browserIds';
import type { Tracked, VisitorRow } from '../tracking/recorder';
import { visitorById } from '../tracking/visitor';
import { visitorOf } from '../tracking/visitorOf';
import { gatherFacts } from './gather';

/**
 * Who browses, for what may differ by tests and conditions. On a first visit it is as known as on the next one: by what
 * the request says.
 */
export function whoOf(services: Tracked, request: IncomingMessage, query: Record<string, unknown> = {}): Who {
  const ids = browserIdsOf(request);
  return {
    visitorId: ids?.counted ?? null,
    facts: () =>
      gatherFacts(services, {
        visitor: ids ? visitorById(services, request, ids.own ?? ids.counted, query) : null,
        acceptLanguage: request.headers['accept-language'],
      }),
  };
}

/** The buyer of an order: they stay in the arms in which they began it. */
export function buyerOf(services: Tracked, order: OrderRow, request?: IncomingMessage): Who {
  return {
    visitorId: order.visitorId ?? (request && browserIdsOf(request)?.counted) ?? null,
    arms: order.arms,
    facts: () => gatherFacts(services, { order, visitor: visitorOf(services, order) }),
  };
}

/** Somebody at a checkout, as far as their browser tells. */
export function guestWho(
  services: Tracked,
  { visitorId, visitor, acceptLanguage }: { visitorId: string | null; visitor: VisitorRow | null; acceptLanguage: string | undefined },
): Who {
  return { visitorId: visitor?.countsAs ?? visitorId, facts: () => gatherFacts(services, { visitor, acceptLanguage }) };
}
