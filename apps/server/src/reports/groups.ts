import type { DimensionName } from '@ruta/core/reports';
import { type SQL, sql } from 'drizzle-orm';
import { QUARTER_MS } from './scope';

/** How sales are grouped: `ofLines` where a row is about lines, `ofOrders` where it is about orders. */
interface Grouping {
  ofLines: SQL<string>;
  /** Without one, a line's own grouping counts the orders that have it. */
  ofOrders?: SQL<string>;
}

const both = (text: SQL<string>): Grouping => ({ ofLines: text, ofOrders: text });
const campaign = (part: 'source' | 'campaign') => sql<string>`coalesce(json_extract(o.campaign, ${`$.${part}`}), '')`;

/** Sales by each dimension; days and hours by quarters of an hour, which the calendar then gathers. */
export const GROUPINGS: { [Name in DimensionName]?: Grouping } = {
  day: { ofLines: sql`p.paid_at / ${QUARTER_MS}`, ofOrders: sql`o.paid_at / ${QUARTER_MS}` },
  hour: { ofLines: sql`p.paid_at / ${QUARTER_MS}`, ofOrders: sql`o.paid_at / ${QUARTER_MS}` },
  funnel: both(sql`o.funnel_id`),
  step: { ofLines: sql`coalesce(p.step_id, o.step_id)`, ofOrders: sql`o.step_id` },
  product: { ofLines: sql`l.product_id` },
  price: { ofLines: sql`l.product_id || ' ' || coalesce(l.edition_id, '') || ' ' || coalesce(l.price_id, '')` },
  code: both(sql`coalesce(o.code_id, '')`),
  partner: both(sql`coalesce(o.partner_id, '')`),
  campaign: both(campaign('campaign')),
  source: both(campaign('source')),
  country: both(sql`coalesce(json_extract(o.buyer, '$.country'), '')`),
  device: both(sql`coalesce(v.device, '')`),
};
