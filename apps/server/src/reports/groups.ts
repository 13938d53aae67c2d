import type { DimensionName } from '@ruta/core/reports';
import { type SQL, sql } from 'drizzle-orm';
import { WHOLE_SHOP } from '../tracking/rollUps';
import { QUARTER_MS, type Scope } from './scope';

/** How sales are grouped: `ofLines` where a row is about lines, `ofOrders` where it is about orders. */
interface Grouping {
  ofLines: SQL<string>;
  /** Without one, a line's own grouping counts the orders that have it. */
  ofOrders?: SQL<string>;
}

const both = (text: SQL<string>): Grouping => ({ ofLines: text, ofOrders: text });

/** Source and campaign together, as ad spend has them: a campaign of the same name at another place is another one. Empty without either. */
export const originOf = (source: SQL, campaign: SQL): SQL<string> =>
  sql<string>`CASE WHEN ${source} = '' AND ${campaign} = '' THEN '' ELSE ${source} || char(10) || ${campaign} END`;

/** The last campaign before an order that had one, as the order keeps it. */
const lastOf = (part: 'source' | 'campaign') => sql<string>`coalesce(json_extract(o.campaign, ${`$.${part}`}), '')`;

/**
 * What was known of the buyer of an order when they first came, just as visitors are counted by it; what the order itself
 * knows where nobody was counted.
 */
function firstOf(
  column: 'device' | 'source' | 'campaign',
  { generation, funnelId }: Pick<Scope, 'generation' | 'funnelId'>,
  otherwise: SQL<string>,
): SQL<string> {
  return sql<string>`coalesce((SELECT f.${sql.raw(column)} FROM place_visitors f
    WHERE f.generation = ${generation} AND f.place_id = ${funnelId ?? WHOLE_SHOP} AND f.visitor_id = o.visitor_id), ${otherwise})`;
}

/** The campaign or source that a sale stands with, by the visit that the report goes by. */
const campaignBy = (part: 'source' | 'campaign', scope: Scope): SQL<string> => (scope.visit === 'last' ? lastOf(part) : firstOf(part, scope, lastOf(part)));

/** Sales by a dimension; days and hours by quarters of an hour, which the calendar then gathers. Undefined for those that sales have not. */
export function groupingOf(by: DimensionName, scope: Scope): Grouping | undefined {
  switch (by) {
    case 'day':
    case 'hour':
      return { ofLines: sql`p.paid_at / ${QUARTER_MS}`, ofOrders: sql`o.paid_at / ${QUARTER_MS}` };
    case 'funnel':
      return both(sql`o.funnel_id`);
    case 'step':
      return { ofLines: sql`coalesce(p.step_id, o.step_id)`, ofOrders: sql`o.step_id` };
    case 'product':
      return { ofLines: sql`l.product_id` };
    case 'price':
      return { ofLines: sql`l.product_id || ' ' || coalesce(l.edition_id, '') || ' ' || coalesce(l.price_id, '')` };
    case 'code':
      return both(sql`coalesce(o.code_id, '')`);
    case 'partner':
      return both(sql`coalesce(o.partner_id, '')`);
    case 'campaign':
    case 'source':
      return both(campaignBy(by, scope));
    case 'spend':
      return both(originOf(campaignBy('source', scope), campaignBy('campaign', scope)));
    case 'country':
      return both(sql`coalesce(json_extract(o.buyer, '$.country'), '')`);
    case 'device':
      return both(firstOf('device', scope, sql`coalesce(v.device, '')`));
    default:
      return undefined;
  }
}

/** The last campaign before an order with its source, as models of attribution owe sales to it. */
export const LAST_ORIGIN = originOf(lastOf('source'), lastOf('campaign'));
