import type { Route } from '@ruta/core/funnel';
import type { Mode } from '@ruta/core/shop';
import { onceId } from './onceId';
import type { Tracked, VisitorRow } from './recorder';
import { makeEvent } from './visitor';

/** Records that a visitor went along routes: each route once for each visitor, however often they go it. */
export function recordRoutes(services: Tracked, mode: Mode, visitor: VisitorRow, funnelId: string, routes: readonly Route[]): void {
  for (const { id, from } of routes) {
    const place = { funnelId, stepId: from, data: { routeId: id } };
    services.recorder.gather(makeEvent(services, 'route.taken', mode, visitor, place, onceId(id, visitor.id)), visitor);
  }
}
