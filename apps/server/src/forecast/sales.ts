import type { Sale } from '@ruta/core/forecast';
import { percentOf } from '@ruta/core/money';
import { type Costs, NO_COSTS } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { loadShop } from '../shop/store';

/** Live sales of a funnel that were paid in a period, free trials included: `p` for payments, `o` for orders, `l` for lines. */
const sold = (funnelId: string, from: number, until: number) => sql`payments p JOIN orders o ON o.id = p.order_id
  WHERE p.state = 'paid' AND p.kind IN ('first', 'addition') AND p.paid_at >= ${from} AND p.paid_at < ${until}
  AND o.mode = 'live' AND o.funnel_id = ${funnelId} AND o.number IS NOT NULL`;
const stop = sql`coalesce(p.step_id, o.step_id)`;

/** Sums of what one stop sold, without bumps. */
interface Sums {
  sales: number;
  net: number;
  gross: number;
  later: number;
  goods: number;
  sending: number;
  commission: number;
}

/**
 * What one sale at each stop brought and cost on average in a period, by the stop; bumps are left out, since they are sold
 * by a rate of their own. Minor units, rounded, with how many sales there were.
 */
export function salesByStop(db: Db, funnelId: string, from: number, until: number): Map<string, { sale: Sale; count: number }> {
  const costs = loadShop(db).settings.costs ?? NO_COSTS;
  const found = new Map<string, Sums>();
  const sumsOf = (stepId: string): Sums => {
    const sums = found.get(stepId) ?? { sales: 0, net: 0, gross: 0, later: 0, goods: 0, sending: 0, commission: 0 };
    found.set(stepId, sums);
    return sums;
  };
  const payments = db.all<{ stepId: string; sales: number; amount: number; later: number }>(
    sql`SELECT ${stop} AS stepId, count(*) AS sales, sum(p.amount) AS amount, sum(coalesce(json_extract(p.quote, '$.dueLater'), 0)) AS later
        FROM ${sold(funnelId, from, until)} GROUP BY 1`,
  );
  for (const { stepId, sales, amount, later } of payments) Object.assign(sumsOf(stepId), { sales, gross: amount, later });
  const lines = db.all<{ stepId: string; role: string; editionId: string | null; net: number; total: number; quantity: number }>(
    sql`SELECT ${stop} AS stepId, l.role, l.edition_id AS editionId, sum(l.net) AS net, sum(l.total) AS total, sum(l.quantity) AS quantity
        FROM order_lines l JOIN ${sold(funnelId, from, until)} AND p.id = l.payment_id GROUP BY 1, 2, 3`,
  );
  for (const line of lines) addLine(sumsOf(line.stepId), line, costs);
  const earned = db.all<{ stepId: string; commission: number }>(
    sql`SELECT ${stop} AS stepId, sum(c.amount) AS commission FROM commissions c JOIN order_lines l ON l.id = c.line_id JOIN ${sold(funnelId, from, until)}
        AND p.id = c.payment_id AND l.role <> 'bump' GROUP BY 1`,
  );
  for (const { stepId, commission } of earned) sumsOf(stepId).commission = commission;
  const each = (sums: Sums, amount: number) => Math.max(0, Math.round(amount / Math.max(1, sums.sales)));
  return new Map(
    [...found].map(([stepId, sums]) => [
      stepId,
      {
        count: sums.sales,
        sale: {
          net: each(sums, sums.net),
          gross: each(sums, sums.gross),
          later: each(sums, sums.later),
          goods: each(sums, sums.goods),
          sending: Math.round(sums.sending / Math.max(1, sums.sales)),
          commission: each(sums, sums.commission),
        },
      },
    ]),
  );
}

function addLine(sums: Sums, line: { role: string; editionId: string | null; net: number; total: number; quantity: number }, costs: Costs): void {
  if (line.role === 'bump') {
    sums.gross -= line.total;
    return;
  }
  if (line.role === 'shipping') {
    sums.sending += line.net - percentOf(line.net, costs.sendingPercent);
    return;
  }
  sums.net += line.net;
  sums.goods += line.quantity * (costs.goods[line.editionId ?? ''] ?? 0);
}
