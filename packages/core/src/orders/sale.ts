import type { StoredQuote } from '../pricing';

/** Whether a quote is of a sale, and not of a gift: something is paid today or later, or a code took all of a price. */
export function isSale(quote: Pick<StoredQuote, 'dueToday' | 'plans' | 'discount'>): boolean {
  return quote.dueToday > 0 || quote.plans.length > 0 || quote.discount > 0;
}
