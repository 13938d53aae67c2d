import { z } from 'zod';
import type { ChargePart } from './charge';

const MomentSchema = z.object({ date: z.string().describe('In the shop’s time zone, ISO 8601'), total: z.int() });

/** What one line's plan goes on owing after today, without its payments one by one. Amounts in minor units. */
export const PlanSummarySchema = z.object({
  lineId: z.string(),
  charges: z.int().nullable().describe('How many charges are to come; null for endless'),
  first: MomentSchema,
  changesTo: z.int().nullable().describe('What the first charge that differs from the first one comes to; null if all are the same'),
  last: MomentSchema.nullable().describe('Null for endless'),
  total: z.int().nullable().describe('All charges together, tax included; null for endless'),
  codeDiscount: z.int().describe('What the code takes off the charges that are listed'),
  instalments: z.int().describe('Instalments after discounts, gross or net as the shop’s prices are; 0 for subscriptions'),
  sends: z.boolean().describe('Parcels go out with its charges'),
});
export type PlanSummary = z.infer<typeof PlanSummarySchema>;

/** What a summary takes from a payment; a part is of one line. */
interface Payment {
  date: string;
  parts: ReadonlyArray<{ lineId: string; part: ChargePart; total: number; discounted: number; codeDiscount: number }>;
  shipping: { total: number } | null;
}

/**
 * The plans of a cart, one for each line that owes something later.
 * @param payments everything that falls due later, in order of time
 * @param isEndless whether a line's plan has no end
 */
export function planSummaries(payments: readonly Payment[], isEndless: (lineId: string) => boolean): PlanSummary[] {
  const byLine = new Map<string, PlanSummary>();
  for (const { date, parts, shipping } of payments) {
    for (const part of parts) {
      // Shipping is told with the plan it belongs to where the payment is its alone.
      const total = part.total + (parts.length === 1 ? (shipping?.total ?? 0) : 0);
      const summary = byLine.get(part.lineId) ?? {
        lineId: part.lineId,
        charges: 0,
        first: { date, total },
        changesTo: null,
        last: null,
        total: 0,
        codeDiscount: 0,
        instalments: 0,
        sends: false,
      };
      byLine.set(part.lineId, summary);
      const endless = isEndless(part.lineId);
      summary.charges = endless ? null : (summary.charges ?? 0) + 1;
      summary.last = endless ? null : { date, total };
      summary.total = endless ? null : (summary.total ?? 0) + total;
      if (total !== summary.first.total) summary.changesTo ??= total;
      summary.codeDiscount += part.codeDiscount;
      if (part.part === 'instalment') summary.instalments += part.discounted;
      summary.sends ||= shipping !== null;
    }
  }
  return [...byLine.values()];
}
