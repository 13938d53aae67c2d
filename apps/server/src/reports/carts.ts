import { ABANDONED_AFTER_MS } from '@ruta/core/checkout';
import { addFigures, type Figures } from '@ruta/core/reports';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Scope } from './scope';
import { QUARTER_MS } from './scope';

/**
 * Carts by the day they were begun: how many were paid, left, and won back. A filter asks of buyers, and most of those who
 * left are none: then they are not counted.
 */
export function cartsByDay(db: Db, { from, until, funnelId, filter }: Scope, dayOf: (at: number) => string): Map<string, Figures> {
  const found = new Map<string, Figures>();
  if (filter) return found;
  const rows = db.all<{ quarter: number; started: number; finished: number; wonBack: number }>(
    sql`SELECT c.created_at / ${QUARTER_MS} AS quarter, count(*) AS started, count(o.paid_at) AS finished, sum(coalesce(o.paid_at >= c.created_at + ${ABANDONED_AFTER_MS}, 0)) AS wonBack
        FROM carts c LEFT JOIN orders o ON o.cart_id = c.id AND o.paid_at IS NOT NULL
        WHERE c.mode = 'live' AND c.created_at >= ${from} AND c.created_at < ${until} ${funnelId ? sql`AND c.funnel_id = ${funnelId}` : sql``} GROUP BY 1`,
  );
  for (const { quarter, started, finished, wonBack } of rows) {
    const day = dayOf(quarter * QUARTER_MS);
    found.set(day, addFigures(found.get(day) ?? {}, { started, finished, wonBack, left: started - finished + wonBack }));
  }
  return found;
}
