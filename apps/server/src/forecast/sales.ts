import { sentEditions } from '@ruta/core/catalog';
import type { Sale } from '@ruta/core/forecast';
import { NO_COSTS } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { findProduct, findProducts } from '../catalog/store';
import { loadShop } from '../shop/store';

/** Live sales of a funnel that were paid in a period, free trials included: `p` for payments, `o` for orders, `l` for lines. Found by their days. */
const sold = (funnelId: string, from: number, until: number) => sql`payments p JOIN orders o ON o.id = p.order_id
  WHERE +p.state = 'paid' AND +p.kind IN ('first', 'addition') AND p.paid_at >= ${from} AND p.paid_at < ${until}
  AND +o.mode = 'live' AND +o.funnel_id = ${funnelId} AND +o.number IS NOT NULL`;
const stop = sql`coalesce(p.step_id, o.step_id)`;

/** What stands for the bumps of one edition at one stop. */
export const bumpKey = (stepId: string, editionId: string | null): string => `${stepId} ${editionId ?? ''}`;

/** Sums of what one stop sold, without bumps; or of the bumps of one edition there. */
interface Sums {
  sales: number;
  net: number;
  gross: number;
  later: number;
  goods: number;
  sending: number;
  commission: number;
}

export interface AverageSale {
  sale: Sale;
  /** How many sales there were. */
  count: number;
}

/**
 * What one sale at each stop brought and cost on average in a period, by the stop, and what one of each bump did, by
 * `bumpKey`: bumps are sold by a rate of their own, with goods, commission and their part of the parcel as everything else.
 * Minor units, rounded.
 */
export function salesByStop(db: Db, funnelId: string, from: number, until: number): { stops: Map<string, AverageSale>; bumps: Map<string, AverageSale> } {
  const costs = loadShop(db).settings.costs ?? NO_COSTS;
  const stops = new Map<string, Sums>();
  const bumps = new Map<string, Sums>();
  const sumsOf = (found: Map<string, Sums>, key: string): Sums => {
    const sums = found.get(key) ?? { sales: 0, net: 0, gross: 0, later: 0, goods: 0, sending: 0, commission: 0 };
    found.set(key, sums);
    return sums;
  };
  const of = ({ stepId, role, editionId }: { stepId: string; role: string; editionId: string | null }) =>
    role === 'bump' ? sumsOf(bumps, bumpKey(stepId, editionId)) : sumsOf(stops, stepId);
  const payments = db.all<{ stepId: string; sales: number; amount: number; later: number }>(
    sql`SELECT ${stop} AS stepId, count(*) AS sales, sum(p.amount) AS amount, sum(coalesce(json_extract(p.quote, '$.dueLater'), 0)) AS later
        FROM ${sold(funnelId, from, until)} GROUP BY 1`,
  );
  for (const { stepId, sales, amount, later } of payments) Object.assign(sumsOf(stops, stepId), { sales, gross: amount, later });
  const lines = db.all<{
    stepId: string;
    role: string;
    productId: string | null;
    editionId: string | null;
    count: number;
    net: number;
    total: number;
    quantity: number;
  }>(
    sql`SELECT ${stop} AS stepId, l.role, l.product_id AS productId, l.edition_id AS editionId, count(*) AS count, sum(l.net) AS net, sum(l.total) AS total, sum(l.quantity) AS quantity
        FROM order_lines l JOIN ${sold(funnelId, from, until)} AND p.id = l.payment_id AND l.part_of IS NULL AND l.role <> 'shipping' GROUP BY 1, 2, 3, 4`,
  );
  for (const line of lines) {
    const sums = of(line);
    sums.net += line.net;
    sums.goods += line.quantity * (costs.goods[line.editionId ?? ''] ?? 0);
    if (line.role !== 'bump') continue;
    sums.sales += line.count;
    sums.gross += line.total;
    sumsOf(stops, line.stepId).gross -= line.total;
  }
  // Parcels are shared by what lay in them: each thing that was sent carries its part.
  const sent = sentEditionIds(
    db,
    lines.flatMap(({ productId }) => productId ?? []),
  );
  const isSent = sql`l.edition_id IN (SELECT value FROM json_each(${JSON.stringify(sent)}))`;
  const parcels = db.all<{ stepId: string; role: string; editionId: string | null; net: number; total: number }>(
    sql`WITH sent AS (
          SELECT ${stop} AS stepId, l.role, l.edition_id AS editionId, s.net, s.total,
            1.0 * l.quantity / sum(l.quantity) OVER (PARTITION BY p.id) AS share
          FROM order_lines l JOIN order_lines s ON s.payment_id = l.payment_id AND s.role = 'shipping'
          JOIN ${sold(funnelId, from, until)} AND p.id = l.payment_id AND l.part_of IS NULL AND ${isSent})
        SELECT stepId, role, editionId, sum(net * share) AS net, sum(total * share) AS total FROM sent GROUP BY 1, 2, 3`,
  );
  for (const { net, total, ...where } of parcels) {
    const sums = of(where);
    sums.sending += net - (net * costs.sendingPercent) / 100;
    if (where.role !== 'bump') continue;
    sums.gross += total;
    sumsOf(stops, where.stepId).gross -= total;
  }
  const earned = db.all<{ stepId: string; role: string; editionId: string | null; commission: number }>(
    sql`SELECT ${stop} AS stepId, l.role, l.edition_id AS editionId, sum(c.amount) AS commission FROM commissions c JOIN order_lines l ON l.id = c.line_id
        JOIN ${sold(funnelId, from, until)} AND p.id = c.payment_id GROUP BY 1, 2, 3`,
  );
  for (const { commission, ...where } of earned) of(where).commission += commission;
  return { stops: averages(stops), bumps: averages(bumps) };
}

function averages(found: ReadonlyMap<string, Sums>): Map<string, AverageSale> {
  return new Map(
    [...found].map(([key, sums]) => {
      const each = (amount: number) => Math.round(amount / Math.max(1, sums.sales));
      const least = (amount: number) => Math.max(0, each(amount));
      const { sales, net, gross, later, goods, sending, commission } = sums;
      return [
        key,
        {
          count: sales,
          sale: { net: least(net), gross: least(gross), later: least(later), goods: least(goods), sending: each(sending), commission: least(commission) },
        },
      ];
    }),
  );
}

/** Editions that are sent as parcels, bundles with something to send included. */
const sentEditionIds = (db: Db, productIds: readonly string[]): string[] =>
  findProducts(db, [...new Set(productIds)]).flatMap((product) => sentEditions(product, (id) => findProduct(db, id)).map(({ id }) => id));
