import { type Product, type Quote, quote } from '@ruta/core';
import type { ShopRow } from '../shop/store';

/** The quote of one product for a buyer in a country, from what the shop's own tables say now. */
export function quoteProduct(shop: ShopRow, product: Product, country: string, now: number): Quote {
  return quote({
    shop: shop.settings,
    taxTable: shop.taxTable,
    shippingTable: shop.shippingTable,
    lines: [
      {
        id: 'main',
        productId: product.id,
        name: product.name,
        role: 'main',
        kind: product.kind,
        taxClass: product.taxClass,
        weight: 0,
        price: product.price,
        quantity: 1,
      },
    ],
    buyer: { country, validTaxNumber: false },
    now,
  });
}
