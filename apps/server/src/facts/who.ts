import type { IncomingMessage } from 'node:http';
import type { Who } from '../funnel/live';
import type { OrderRow } from '../orders/store';
import type { Tracked, VisitorRow } from '../tracking/recorder';
import { visitorById, visitorIdOf } from '../tracking/visitor';
import { visitorOf } from '../tracking/visitorOf';
import { gatherFacts } from './gather';

/**
 * Who browses, for what may differ by tests and conditions. On a first visit it is as known as on the next one: by what
 * the request says.
 * @param visitorId of a browser that has only just been given one
 */
export function whoOf(services: Tracked, request: IncomingMessage, query: Record<string, unknown> = {}, visitorId = visitorIdOf(request) ?? null): Who {
  return {
    visitorId,
    facts: () =>
      gatherFacts(services, {
        visitor: visitorId === null ? null : visitorById(services, request, visitorId, query),
        acceptLanguage: request.headers['accept-language'],
      }),
  };
}

/** The buyer of an order: they stay in the arms in which they began it. */
export function buyerOf(services: Tracked, order: OrderRow, browser: string | null = null): Who {
  return {
    visitorId: order.visitorId ?? browser,
    arms: order.arms,
    facts: () => gatherFacts(services, { order, visitor: visitorOf(services, order) }),
  };
}

/** Somebody at a checkout, as far as their browser tells. */
export function guestWho(
  services: Tracked,
  { visitorId, visitor, acceptLanguage }: { visitorId: string | null; visitor: VisitorRow | null; acceptLanguage: string | undefined },
): Who {
  return { visitorId, facts: () => gatherFacts(services, { visitor, acceptLanguage }) };
}
