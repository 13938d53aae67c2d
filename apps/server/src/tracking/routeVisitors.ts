import type { TrackedEvent } from '@ruta/core/tracking';
import type { Db } from '../base/db';
import { routeVisitors } from './tables';

/** Keeps who first went along a route when; test mode is left out of every figure. */
export function rollUpRoute(db: Db, { kind, visitorId, funnelId, at, mode, data }: TrackedEvent): void {
  if (kind !== 'route.taken' || !visitorId || !funnelId || mode === 'test') return;
  const { routeId } = data as { routeId: string };
  db.insert(routeVisitors).values({ routeId, visitorId, funnelId, firstAt: at }).onConflictDoNothing().run();
}
