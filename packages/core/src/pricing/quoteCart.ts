import type { Code, CodeUses } from '../codes';
import { type Quote, quote } from './quote';
import type { Bought, QuoteInput, QuoteLineInput } from './quoteInput';
import type { ShippingTable } from './shippingTable';
import type { TaxTable } from './taxTable';

/** What holds for every sale of a shop. */
export interface ShopTables {
  settings: QuoteInput['shop'];
  taxTable: TaxTable;
  shippingTable: ShippingTable;
}

export interface Cart {
  lines: QuoteLineInput[];
  buyer: QuoteInput['buyer'];
  code?: Code | undefined;
  codeUses?: CodeUses | undefined;
  bought?: Bought | undefined;
  sentClasses?: QuoteInput['sentClasses'];
}

/** Regions of a country that the shop's tables tell apart, in the order of the alphabet. */
export function regionsOf({ taxTable, shippingTable }: Pick<ShopTables, 'taxTable' | 'shippingTable'>, country: string): string[] {
  const named = [
    ...taxTable.flatMap((row) => (row.country === country && row.region ? [row.region] : [])),
    ...shippingTable.flatMap((zone) => (zone.countries.includes(country) && zone.region ? [zone.region] : [])),
  ];
  return [...new Set(named)].sort();
}

/** A card is needed for what is due today, and for what is due later, for which it is kept. */
export const needsCard = (quote: Pick<Quote, 'dueToday' | 'plans'>) => quote.dueToday > 0 || quote.plans.length > 0;

/**
 * The quote of a cart from the shop's own tables: at the checkout, at payment, in the studio's previews and its
 * calculator.
 * @param now Unix time in milliseconds
 * @param next of endless plans, how many charges to list
 */
export function quoteCart(shop: ShopTables, cart: Cart, now: number, next?: number): Quote {
  const { settings, taxTable, shippingTable } = shop;
  return quote({ shop: settings, taxTable, shippingTable, ...cart, now }, next);
}
