import type { Shop } from '../shop';
import type { Code, CodeUses } from './code';
import { type Quote, quote } from './quote';
import type { Bought, QuoteInput, QuoteLineInput } from './quoteInput';
import type { ShippingTable } from './shippingTable';
import type { TaxTable } from './taxTable';

/** What holds for every sale of a shop. */
export interface ShopTables {
  settings: Shop;
  taxTable: TaxTable;
  shippingTable: ShippingTable;
}

export interface Cart {
  lines: QuoteLineInput[];
  buyer: QuoteInput['buyer'];
  code?: Code | undefined;
  codeUses?: CodeUses | undefined;
  bought?: Bought | undefined;
}

/**
 * The quote of a cart from the shop's own tables: at the checkout, at payment, in the studio's previews and its
 * calculator.
 * @param now Unix time in milliseconds
 */
export function quoteCart(shop: ShopTables, cart: Cart, now: number): Quote {
  const { settings, taxTable, shippingTable } = shop;
  return quote({ shop: settings, taxTable, shippingTable, ...cart, now });
}
