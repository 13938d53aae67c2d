import { type ShippingTable, type TaxTable, taxRatesEu } from '@ruta/core/pricing';
import { type Brand, DEFAULT_BRAND, type Mode, type Shop } from '@ruta/core/shop';
import { eq, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { shops } from './tables';

const SHOP_ROW = 1;
const FIRST_ORDER_NUMBER = 1000;

export interface ShopRow {
  settings: Shop;
  brand: Brand;
  taxTable: TaxTable;
  shippingTable: ShippingTable;
}

/**
 * The shop as last read, by database: it is wanted many times in one request and changes seldom. Inside a transaction,
 * which has a handle of its own, it is always read.
 */
const lastRead = new WeakMap<Db, ShopRow>();

/** The shop's settings; undefined in a wholly new installation. */
export function findShop(db: Db): ShopRow | undefined {
  const known = lastRead.get(db);
  if (known) return known;
  const row = db.select().from(shops).where(eq(shops.id, SHOP_ROW)).get();
  if (row && '$client' in db) lastRead.set(db, row);
  return row;
}

/** The shop's settings. @throws Error before the shop has been set up */
export function loadShop(db: Db): ShopRow {
  const shop = findShop(db);
  if (!shop) throw new Error('The shop has not been set up yet.');
  return shop;
}

/** Writes the first row of a shop, with the tax rates that ship with Ruta. */
export function createShop(db: Db, settings: Shop, brand: Brand = DEFAULT_BRAND): void {
  db.insert(shops)
    .values({ id: SHOP_ROW, settings, brand, taxTable: taxRatesEu(settings.timeZone), shippingTable: [], lastOrderNumber: FIRST_ORDER_NUMBER })
    .run();
}

/** Changes the shop. Not for use inside a transaction: what others read in the meantime would be kept. */
export function saveShop({ db, changes }: Pick<Services, 'db' | 'changes'>, change: Partial<ShopRow>): void {
  db.update(shops).set(change).where(eq(shops.id, SHOP_ROW)).run();
  lastRead.delete(db);
  changes.announce();
}

/** How many orders were paid in test mode. */
export const countTestOrders = (db: Db): number => db.select({ last: shops.lastTestNumber }).from(shops).get()?.last ?? 0;

/**
 * Takes the next order number of a mode; call it in the transaction that pays the order, so that numbers have no gaps.
 * Test orders have numbers of their own: they leave no gap among those that were paid.
 */
export function takeOrderNumber(db: Db, mode: Mode): number {
  const column = mode === 'live' ? shops.lastOrderNumber : shops.lastTestNumber;
  const change = mode === 'live' ? { lastOrderNumber: sql`${column} + 1` } : { lastTestNumber: sql`${column} + 1` };
  const row = db.update(shops).set(change).where(eq(shops.id, SHOP_ROW)).returning({ number: column }).get();
  if (!row) throw new Error('The shop has not been set up yet.');
  return row.number;
}
