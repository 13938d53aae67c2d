import type { Figures } from '@ruta/core/reports';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Scope } from './scope';

/** What became of each bump and offer of those shown in a period, by its id and role; test orders are left out. */
export function offersShown(db: Db, { from, until, funnelId, orderIds }: Scope): Map<string, Figures> {
  const rows = db.all<{ key: string; shown: number; taken: number; value: number }>(
    sql`SELECT offer_id || ' ' || role AS key, count(*) AS shown, count(taken_at) AS taken, sum(value) AS value FROM offer_showings
        WHERE mode = 'live' AND shown_at >= ${from} AND shown_at < ${until} ${funnelId ? sql`AND funnel_id = ${funnelId}` : sql``}
        ${orderIds === null ? sql`` : sql`AND order_id IN (SELECT value FROM json_each(${orderIds}))`} GROUP BY 1`,
  );
  return new Map(rows.map(({ key, shown, taken, value }) => [key, { shown, taken, takenValue: value }]));
}
