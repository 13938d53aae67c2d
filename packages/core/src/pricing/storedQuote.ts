import { z } from 'zod';
import type { Seller } from '../shop';
import { planSummaries } from './planSummary';
import { type Quote, QuoteSchema } from './quote';

/** The version of stored quotes that is written now; older ones are brought up when they are read. */
export const QUOTE_VERSION = 2;

/**
 * A quote as it is kept with the payment that was made by it. What a plan goes on owing is summed up: its payments are
 * quoted when they fall due.
 */
export const StoredQuoteSchema = QuoteSchema.omit({ later: true }).extend({
  version: z.literal(QUOTE_VERSION),
  sellerTaxNumber: z.string().optional().describe('As it was on the day of the sale'),
});
export type StoredQuote = z.infer<typeof StoredQuoteSchema>;

/** What is kept of a quote, with who sold by it: a receipt says the same for good. */
export function storedQuote({ later: _later, ...quote }: Quote, seller?: Pick<Seller, 'taxNumber'>): StoredQuote {
  return { ...quote, version: QUOTE_VERSION, ...(seller?.taxNumber ? { sellerTaxNumber: seller.taxNumber } : {}) };
}

/**
 * A stored quote as the present version has it. Those of the first version listed every later payment.
 * @throws ZodError if it is no quote of any version
 */
export function readQuote(stored: unknown): StoredQuote {
  const quote = stored as { version?: number; later?: Quote['later']; lines?: Quote['lines'] };
  if (quote.version === QUOTE_VERSION) return StoredQuoteSchema.parse(stored);
  const lines = quote.lines ?? [];
  const isEndless = (lineId: string) => {
    const price = lines.find((line) => line.lineId === lineId)?.price;
    return price?.kind === 'subscription' && price.charges === null;
  };
  return StoredQuoteSchema.parse({ ...quote, version: QUOTE_VERSION, plans: planSummaries(quote.later ?? [], isEndless) });
}
