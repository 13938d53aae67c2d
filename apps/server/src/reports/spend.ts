import { percentOf } from '@ruta/core/money';
import { type AttributionModel, addFigures, attribute, type Figures, type Measure, MODEL_NAMES, profitOf, type Touch, touchesOf } from '@ruta/core/reports';
import { NO_COSTS } from '@ruta/core/shop';
import { type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { loadShop } from '../shop/store';
import { commissionsBy } from './commissions';
import { groupingOf, LAST_ORIGIN, originOf } from './groups';
import { salesBy } from './sales';
import { REFUNDED, type Scope, soldLines, soldPayments } from './scope';

/** What ads cost is known of the whole shop, not of one funnel or of some buyers. */
const knowsSpend = ({ funnelId, filter }: Pick<Scope, 'funnelId' | 'filter'>): boolean => !funnelId && !filter;

/** What ads cost by source and campaign. */
function spentBy(db: Db, { days, funnelId, filter }: Scope): Map<string, Figures> {
  if (!knowsSpend({ funnelId, filter })) return new Map();
  const rows = db.all<{ origin: string; cost: number; clicks: number }>(
    sql`SELECT ${originOf(sql`source`, sql`campaign`)} AS origin, sum(cost) AS cost, sum(clicks) AS clicks
        FROM ad_spend WHERE day >= ${days.from} AND day <= ${days.to} GROUP BY 1`,
  );
  return new Map(rows.map(({ origin, cost, clicks }) => [origin, { cost, clicks }]));
}

/** What a file says of a campaign without its source is of the one source that has the campaign; of several it stays by itself. */
function withSources(spent: Map<string, Figures>, others: Iterable<string>): Map<string, Figures> {
  const bySource = new Map<string, Set<string>>();
  for (const origin of [...spent.keys(), ...others]) {
    const [source, campaign = ''] = origin.split('\n');
    if (source) bySource.set(campaign, (bySource.get(campaign) ?? new Set()).add(origin));
  }
  const found = new Map<string, Figures>();
  for (const [origin, figures] of spent) {
    const known = origin.startsWith('\n') ? bySource.get(origin.slice(1)) : undefined;
    const [only] = known?.size === 1 ? known : [];
    found.set(only ?? origin, addFigures(found.get(only ?? origin) ?? {}, figures));
  }
  return found;
}

/** What selling cost by campaign: fees of processors, goods, and what is left of shipping. */
function costsBy(db: Db, scope: Scope, origin: SQL): Map<string, Figures> {
  const costs = loadShop(db).settings.costs ?? NO_COSTS;
  const found = new Map<string, Figures>();
  const add = (campaign: string, figures: Figures) => found.set(campaign, addFigures(found.get(campaign) ?? {}, figures));
  const payments = db.all<{ campaign: string; amount: number; count: number }>(
    sql`SELECT ${origin} AS campaign, p.amount, count(*) AS count FROM ${soldPayments(scope)} AND p.amount > 0 GROUP BY 1, 2`,
  );
  // Rounded for each payment, as processors do.
  for (const { campaign, amount, count } of payments) add(campaign, { fees: count * (percentOf(amount, costs.feePercent) + costs.feeFixed) });
  const goods = db.all<{ campaign: string; editionId: string | null; quantity: number }>(
    sql`SELECT ${origin} AS campaign, g.edition_id AS editionId, sum(g.quantity) AS quantity
        FROM ${soldPayments(scope, sql`JOIN order_lines g ON g.payment_id = p.id`)} AND g.edition_id IS NOT NULL AND p.kind IN ('first', 'addition') GROUP BY 1, 2`,
  );
  for (const { campaign, editionId, quantity } of goods) add(campaign, { goods: quantity * (costs.goods[editionId ?? ''] ?? 0) });
  const sending = db.all<{ campaign: string; net: number }>(
    sql`SELECT ${origin} AS campaign, sum(s.net) AS net FROM ${soldPayments(scope, sql`JOIN order_lines s ON s.payment_id = p.id`)} AND s.role = 'shipping' GROUP BY 1`,
  );
  for (const { campaign, net } of sending) add(campaign, { sending: net - percentOf(net, costs.sendingPercent) });
  return found;
}

/** Cost, return and profit by source and campaign. */
export function spendBy(db: Db, scope: Scope, leads: Map<string, Figures>): Map<string, Figures> {
  const origin = groupingOf('spend', scope)?.ofLines ?? LAST_ORIGIN;
  const sold = [salesBy(db, 'spend', scope), costsBy(db, scope, origin), commissionsBy(db, origin, scope), leads];
  const spent = withSources(
    spentBy(db, scope),
    sold.flatMap((part) => [...part.keys()]),
  );
  const found = new Map<string, Figures>();
  for (const part of [spent, ...sold]) for (const [key, figures] of part) found.set(key, addFigures(found.get(key) ?? {}, figures));
  const isKnown = knowsSpend(scope);
  for (const [key, figures] of found) {
    // What came without ads is no return on them, nor is it cheap.
    const isPaid = (figures.cost ?? 0) > 0;
    const ofAds = isPaid ? { paidLeads: figures.leads ?? 0, paidOrders: figures.orders ?? 0, paidRevenue: figures.revenue ?? 0 } : {};
    found.set(key, isKnown ? { ...figures, ...ofAds, profit: profitOf(figures) } : { ...figures, cost: null, clicks: null, profit: null });
  }
  return found;
}

const OWED: Record<AttributionModel, Measure> = { first: 'owedFirst', last: 'owedLast', linear: 'owedLinear', position: 'owedPosition', decay: 'owedDecay' };

const eventPart = (part: 'source' | 'campaign') => sql`coalesce(json_extract(e.campaign, ${`$.${part}`}), '')`;

/** Net revenue owed to campaigns by each model; every model adds up to all of it. */
export function attributionBy(db: Db, scope: Scope): Map<string, Figures> {
  const sales = db.all<{ id: string; visitorId: string | null; paidAt: number; campaign: string; revenue: number }>(
    sql`SELECT o.id, o.visitor_id AS visitorId, o.paid_at AS paidAt, ${LAST_ORIGIN} AS campaign, sum(l.net - ${REFUNDED}) AS revenue FROM ${soldLines(scope, false)} GROUP BY o.id`,
  );
  const visits = db.all<{ id: string; at: number; campaign: string }>(
    sql`SELECT o.id, min(e.at) AS at, ${originOf(eventPart('source'), eventPart('campaign'))} AS campaign FROM events e JOIN orders o ON o.visitor_id = e.visitor_id
        WHERE e.at <= o.paid_at AND o.id IN (SELECT o.id FROM ${soldPayments(scope)} AND p.amount > 0) GROUP BY o.id, e.visit_id`,
  );
  const byOrder = new Map<string, Touch[]>();
  for (const { id, at, campaign } of visits) byOrder.set(id, [...(byOrder.get(id) ?? []), { at, campaign }]);
  const found = withSources(
    spentBy(db, scope),
    [...sales, ...visits].map(({ campaign }) => campaign),
  );
  for (const { id, paidAt, campaign, revenue } of sales) {
    const touches = touchesOf(byOrder.get(id) ?? [{ at: paidAt, campaign }]);
    for (const model of MODEL_NAMES) {
      for (const [name, part] of attribute(model, touches, revenue, paidAt)) found.set(name, addFigures(found.get(name) ?? {}, { [OWED[model]]: part }));
    }
  }
  return found;
}
