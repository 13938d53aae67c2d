import { percentOf } from '@ruta/core/money';
import { type AttributionModel, addFigures, attribute, type Figures, type Measure, MODEL_NAMES, profitOf, type Touch, touchesOf } from '@ruta/core/reports';
import { NO_COSTS } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { loadShop } from '../shop/store';
import { commissionsBy } from './commissions';
import { salesBy } from './sales';
import { REFUNDED, type Scope, soldLines, soldPayments } from './scope';

/** What ads cost is known of the whole shop, not of one funnel or of some buyers. */
const knowsSpend = ({ funnelId, filter }: Pick<Scope, 'funnelId' | 'filter'>): boolean => !funnelId && !filter;

/** What ads cost by campaign. */
function spentBy(db: Db, { days, funnelId, filter }: Scope): Map<string, Figures> {
  if (!knowsSpend({ funnelId, filter })) return new Map();
  const rows = db.all<{ campaign: string; cost: number; clicks: number }>(
    sql`SELECT campaign, sum(cost) AS cost, sum(clicks) AS clicks FROM ad_spend WHERE day >= ${days.from} AND day <= ${days.to} GROUP BY 1`,
  );
  return new Map(rows.map(({ campaign, cost, clicks }) => [campaign, { cost, clicks }]));
}

const campaignOf = sql<string>`coalesce(json_extract(o.campaign, '$.campaign'), '')`;

/** What selling cost by campaign: fees of processors, goods, and what is left of shipping. */
function costsBy(db: Db, scope: Scope): Map<string, Figures> {
  const costs = loadShop(db).settings.costs ?? NO_COSTS;
  const found = new Map<string, Figures>();
  const add = (campaign: string, figures: Figures) => found.set(campaign, addFigures(found.get(campaign) ?? {}, figures));
  const payments = db.all<{ campaign: string; amount: number; count: number }>(
    sql`SELECT ${campaignOf} AS campaign, p.amount, count(*) AS count FROM ${soldPayments(scope)} AND p.amount > 0 GROUP BY 1, 2`,
  );
  // Rounded for each payment, as processors do.
  for (const { campaign, amount, count } of payments) add(campaign, { fees: count * (percentOf(amount, costs.feePercent) + costs.feeFixed) });
  const goods = db.all<{ campaign: string; editionId: string | null; quantity: number }>(
    sql`SELECT ${campaignOf} AS campaign, g.edition_id AS editionId, sum(g.quantity) AS quantity
        FROM ${soldPayments(scope, sql`JOIN order_lines g ON g.payment_id = p.id`)} AND g.edition_id IS NOT NULL AND p.kind IN ('first', 'addition') GROUP BY 1, 2`,
  );
  for (const { campaign, editionId, quantity } of goods) add(campaign, { goods: quantity * (costs.goods[editionId ?? ''] ?? 0) });
  const sending = db.all<{ campaign: string; net: number }>(
    sql`SELECT ${campaignOf} AS campaign, sum(s.net) AS net FROM ${soldPayments(scope, sql`JOIN order_lines s ON s.payment_id = p.id`)} AND s.role = 'shipping' GROUP BY 1`,
  );
  for (const { campaign, net } of sending) add(campaign, { sending: net - percentOf(net, costs.sendingPercent) });
  return found;
}

/** Cost, return and profit by campaign. */
export function spendBy(db: Db, scope: Scope, leads: Map<string, Figures>): Map<string, Figures> {
  const parts = [spentBy(db, scope), salesBy(db, 'campaign', scope), costsBy(db, scope), commissionsBy(db, campaignOf, scope), leads];
  const found = new Map<string, Figures>();
  for (const part of parts) for (const [campaign, figures] of part) found.set(campaign, addFigures(found.get(campaign) ?? {}, figures));
  const isKnown = knowsSpend(scope);
  for (const [campaign, figures] of found) {
    found.set(campaign, isKnown ? { ...figures, profit: profitOf(figures) } : { ...figures, cost: null, clicks: null, profit: null });
  }
  return found;
}

const OWED: Record<AttributionModel, Measure> = { first: 'owedFirst', last: 'owedLast', linear: 'owedLinear', position: 'owedPosition', decay: 'owedDecay' };

/** Net revenue owed to campaigns by each model; every model adds up to all of it. */
export function attributionBy(db: Db, scope: Scope): Map<string, Figures> {
  const sales = db.all<{ id: string; visitorId: string | null; paidAt: number; campaign: string; revenue: number }>(
    sql`SELECT o.id, o.visitor_id AS visitorId, o.paid_at AS paidAt, ${campaignOf} AS campaign, sum(l.net - ${REFUNDED}) AS revenue FROM ${soldLines(scope, false)} GROUP BY o.id`,
  );
  const visits = db.all<{ id: string; at: number; campaign: string }>(
    sql`SELECT o.id, min(e.at) AS at, coalesce(json_extract(e.campaign, '$.campaign'), '') AS campaign FROM events e JOIN orders o ON o.visitor_id = e.visitor_id
        WHERE e.at <= o.paid_at AND o.id IN (SELECT o.id FROM ${soldPayments(scope)} AND p.amount > 0) GROUP BY o.id, e.visit_id`,
  );
  const byOrder = new Map<string, Touch[]>();
  for (const { id, at, campaign } of visits) byOrder.set(id, [...(byOrder.get(id) ?? []), { at, campaign }]);
  const found = spentBy(db, scope);
  for (const { id, paidAt, campaign, revenue } of sales) {
    const touches = touchesOf(byOrder.get(id) ?? [{ at: paidAt, campaign }]);
    for (const model of MODEL_NAMES) {
      for (const [name, part] of attribute(model, touches, revenue, paidAt)) found.set(name, addFigures(found.get(name) ?? {}, { [OWED[model]]: part }));
    }
  }
  return found;
}
