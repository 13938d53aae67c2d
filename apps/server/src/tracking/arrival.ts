import type { IncomingMessage } from 'node:http';
import { PARTNER_PARAMETER } from '@ruta/core/partners';
import { campaignOf, clickIdsOf } from '@ruta/core/tracking';
import type { Tracked } from './recorder';
import { isMadeUp } from './site';
import { countedVisitor } from './visitor';

/**
 * Keeps by which campaign, press or partner somebody comes, as the page itself is asked for: its script may be blocked, run
 * late, or never. Nothing is counted by it; that is what a view is for.
 * @param query what stands in the page's address
 */
export function noteArrival(services: Tracked, request: IncomingMessage, query: Record<string, unknown>): void {
  if (!campaignOf(query) && !clickIdsOf(query) && typeof query[PARTNER_PARAMETER] !== 'string') return;
  // A page that is fetched ahead is perhaps never looked at.
  if (request.method !== 'GET' || request.headers['sec-purpose'] !== undefined) return;
  const visitor = countedVisitor(services, request, query);
  if (visitor && !isMadeUp(services, request, visitor)) services.recorder.meet(visitor);
}
