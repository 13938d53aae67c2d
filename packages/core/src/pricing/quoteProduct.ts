import type { Product } from '../catalog';
import type { Shop } from '../shop';
import { type Quote, quote } from './quote';
import type { ShippingTable } from './shippingTable';
import type { TaxTable } from './taxTable';

/** What holds for every sale of a shop. */
export interface ShopTables {
  settings: Shop;
  taxTable: TaxTable;
  shippingTable: ShippingTable;
}

/**
 * The quote of one product for a buyer in a country, from the shop's own tables: at the checkout, at payment and in
 * the studio's previews.
 * @param now Unix time in milliseconds
 */
export function quoteProduct(shop: ShopTables, product: Pick<Product, 'id' | 'name' | 'kind' | 'taxClass' | 'price'>, country: string, now: number): Quote {
  const { id: productId, name, kind, taxClass, price } = product;
  return quote({
    shop: shop.settings,
    taxTable: shop.taxTable,
    shippingTable: shop.shippingTable,
    lines: [{ id: 'main', productId, name, role: 'main', kind, taxClass, weight: 0, price, quantity: 1 }],
    buyer: { country, validTaxNumber: false },
    now,
  });
}
