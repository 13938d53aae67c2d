import { LINE_ROLE_WORDS } from '@ruta/core/catalog';
import type { DimensionName } from '@ruta/core/reports';
import { countryName } from '@ruta/core/shop';
import { sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { findProduct } from '../catalog/store';
import { funnelNames } from '../funnel/store';

export interface RowName {
  name: string;
  detail?: string;
  between?: { from: string; to: string };
}

const DEVICES: Record<string, string> = { phone: 'Phone', tablet: 'Tablet', desktop: 'Desktop' };
/** What a row is called that nothing is known of. */
const UNKNOWN: { [Name in DimensionName]?: string } = {
  campaign: 'No campaign',
  spend: 'No campaign',
  attribution: 'No campaign',
  source: 'Direct, or not known',
  country: 'Not known',
  device: 'Not known',
  code: 'Without a code',
  partner: 'Without a partner',
  product: 'Not known',
  price: 'Not known',
};

/** Stops of funnels, removed ones too, in the order of the funnels. */
export function stepsOf(db: Db, funnelId: string | undefined): Array<{ id: string; name: string; funnelId: string; removed: boolean }> {
  return db
    .all<{ id: string; name: string; funnelId: string; removed: number }>(
      sql`SELECT s.id, s.name, s.funnel_id AS funnelId, s.removed_at IS NOT NULL AS removed FROM steps s JOIN funnels f ON f.id = s.funnel_id
          ${funnelId ? sql`WHERE f.id = ${funnelId}` : sql``} ORDER BY f.created_at, s.rowid`,
    )
    .map((row) => ({ ...row, removed: row.removed === 1 }));
}

/** Routes of funnels as they are drawn now. */
export function routesOf(db: Db, funnelId: string | undefined): Array<{ id: string; name: string; funnelId: string; from: string; to: string }> {
  return db.all(
    sql`SELECT r.id, a.name || ' → ' || b.name || ' (' || r.outcome || ')' AS name, r.funnel_id AS funnelId, r.from_step_id AS "from", r.to_step_id AS "to" FROM routes r
        JOIN steps a ON a.id = r.from_step_id JOIN steps b ON b.id = r.to_step_id ${funnelId ? sql`WHERE r.funnel_id = ${funnelId}` : sql``} ORDER BY r.rowid`,
  );
}

/** Offers that some stop sells now, by their id. */
export function offerNames(db: Db): Map<string, RowName> {
  const rows = db.all<{ offerId: string; productId: string; stop: string; funnel: string }>(
    sql`SELECT json_extract(value, '$.id') AS offerId, json_extract(value, '$.productId') AS productId, s.name AS stop, f.name AS funnel
        FROM steps s JOIN funnels f ON f.id = s.funnel_id, json_each(s.sells)`,
  );
  return new Map(
    rows.map(({ offerId, productId, stop, funnel }) => [offerId, { name: findProduct(db, productId)?.name ?? 'Not known', detail: `${stop}, ${funnel}` }]),
  );
}

export const roleWords = (role: string): string => LINE_ROLE_WORDS[role as keyof typeof LINE_ROLE_WORDS] ?? role;

/** What the rows of a dimension are called, by their keys as the log and the orders have them. */
export function namesFor(db: Db, by: DimensionName, keys: readonly string[]): (key: string) => RowName {
  const unknown: RowName = { name: UNKNOWN[by] ?? 'Not known' };
  switch (by) {
    case 'funnel': {
      const names = funnelNames(db, keys);
      return (key) => ({ name: names.get(key) ?? unknown.name });
    }
    case 'product':
      return (key) => ({ name: findProduct(db, key)?.name ?? unknown.name });
    case 'price':
      return (key) => priceName(db, key) ?? unknown;
    case 'code': {
      const names = new Map(db.all<{ id: string; code: string }>(sql`SELECT id, code FROM codes`).map(({ id, code }) => [id, code]));
      return (key) => ({ name: names.get(key) ?? unknown.name });
    }
    case 'partner': {
      const names = new Map(db.all<{ id: string; name: string; code: string }>(sql`SELECT id, name, code FROM partners`).map((row) => [row.id, row]));
      return (key) => {
        const found = names.get(key);
        return found ? { name: found.name, detail: found.code } : unknown;
      };
    }
    case 'spend':
    case 'attribution':
      return (key) => {
        const [source = '', campaign] = key.split('\n');
        return { name: campaign || unknown.name, ...(source ? { detail: source } : {}) };
      };
    case 'country':
      return (key) => (key === '' ? unknown : { name: countryName(key) });
    case 'device':
      return (key) => ({ name: DEVICES[key] ?? unknown.name });
    default:
      return (key) => (key === '' ? unknown : { name: key });
  }
}

/** The name of a price: its product, then what tells it apart there. */
function priceName(db: Db, key: string): RowName | undefined {
  const [productId = '', editionId, priceId] = key.split(' ');
  const product = findProduct(db, productId);
  if (!product) return undefined;
  const edition = product.editions.find(({ id }) => id === editionId);
  const price = edition?.prices.find(({ id }) => id === priceId);
  const apart = [product.editions.length > 1 ? edition?.name : '', (edition?.prices.length ?? 0) > 1 ? price?.name : ''].filter(Boolean).join(', ');
  return { name: product.name, ...(apart ? { detail: apart } : {}) };
}
