import type { Price } from './price';
import { struckPrice } from './priceHistory';

export interface CurrentPrice {
  /** What one unit costs now, in minor units: once, all instalments together, or one period. */
  current: number;
  /** What it costs outside any sale, in minor units. */
  regular: number;
  onSale: boolean;
}

/** What is struck through beside what is asked for one unit of a price; null for nothing. @param unit minor units @param now Unix time in milliseconds */
export const struckBeside = (price: Price, unit: number, now: number): number | null =>
  price.kind === 'free' || price.kind === 'pay-what-you-want' ? null : struckPrice(price, unit, now);

/**
 * The price of one unit at a moment: the sale price within the sale (start included, end excluded), else the
 * regular price. A missing bound of the sale is open.
 * @param now Unix time in milliseconds
 * @param chosen what the buyer chose to pay, minor units; without it the suggested amount
 */
export function currentPrice(price: Price, now: number, chosen?: number): CurrentPrice {
  if (price.kind === 'free') return { current: 0, regular: 0, onSale: false };
  if (price.kind === 'pay-what-you-want') {
    const amount = chosen ?? price.suggested;
    return { current: amount, regular: amount, onSale: false };
  }
  const { regular, sale } = price;
  const onSale = sale !== undefined && (sale.from === undefined || sale.from <= now) && (sale.until === undefined || now < sale.until);
  return { current: onSale ? sale.amount : regular, regular, onSale };
}
