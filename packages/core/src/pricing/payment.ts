import { z } from 'zod';
import { type Code, codeShares, isEligible } from '../codes';
import { splitByWeight } from '../money';
import type { Charge } from './charge';
import type { QuoteInput, QuoteLineInput } from './quoteInput';
import { type NoRate, shippingCost } from './shippingTable';
import { TaxedSchema, type TaxShare, TaxShareSchema, taxAmount } from './tax';
import { findTaxRow, rateOf, type TaxRow } from './taxTable';

/** One line's part of a payment, with how it came about. Amounts in minor units. */
export const PaymentPartSchema = TaxedSchema.extend({
  lineId: z.string(),
  part: z.enum(['whole', 'instalment', 'period', 'trial', 'set-up fee']),
  number: z.int().describe('Which instalment or period, from 1; 0 for the rest'),
  amount: z.int().describe('Before the code'),
  codeDiscount: z.int(),
  discounted: z.int().describe('amount − codeDiscount; gross or net as the shop’s prices are'),
  taxShares: z.array(TaxShareSchema).describe('One for each tax class; several for a bundle'),
});
export type PaymentPart = z.infer<typeof PaymentPartSchema>;

export const ShippingChargeSchema = TaxedSchema.extend({
  zone: z.string(),
  reason: z.string(),
  listed: z.int().describe('Shipping of the whole order by the table, gross or net as the shop’s prices are'),
  paidBefore: z.int().describe('Of it paid before a one-click addition'),
  weight: z.number().describe('Grams'),
  value: z.int().describe('All lines after discounts, which bands and free shipping are measured on'),
});
export type ShippingCharge = z.infer<typeof ShippingChargeSchema>;

/** What stays the same for all payments of one quote. */
export interface Terms {
  input: QuoteInput;
  destination: { country: string; region?: string | undefined };
  /** The code, if it applies to this order. */
  code: Code | undefined;
  reverseCharge: boolean;
  /** The tax row of the destination at the time of the purchase. */
  row: TaxRow | undefined;
}

/** Whether a line, or a part of it, is sent as a parcel; and as what. */
export function parcelOf({ kind, weight, taxClass, parts }: Pick<QuoteLineInput, 'kind' | 'weight' | 'taxClass' | 'parts'>) {
  if (!parts) return kind === 'physical' ? { weight, taxClasses: [taxClass] } : null;
  const sent = parts.filter((part) => part.kind === 'physical');
  if (sent.length === 0) return null;
  return { weight: sent.reduce((sum, part) => sum + part.weight * part.quantity, 0), taxClasses: sent.map((part) => part.taxClass) };
}

/** The tax classes of what is sent of some lines: shipping takes the highest rate of them. */
export const sentClasses = (lines: ReadonlyArray<Parameters<typeof parcelOf>[0]>) => lines.flatMap((line) => parcelOf(line)?.taxClasses ?? []);

/**
 * What the code takes off each charge of one payment.
 * @param state says whether a code for the first payment only has acted already; changed here
 */
export function discountPayment(terms: Pick<Terms, 'code'>, charges: readonly Charge[], state: { spent: boolean }): number[] {
  const { code } = terms;
  if (!code || state.spent) return charges.map(() => 0);
  const amounts = charges.map((charge) => (charge.part !== 'set-up fee' && isEligible(code, charge.of.line) ? charge.amount : 0));
  if (code.payments === 'first' && amounts.some((amount) => amount > 0)) state.spent = true;
  return codeShares(code.discount, amounts);
}

/** Taxes one charge after its discount. A later period takes the rate of its own day; instalments that of the purchase. */
export function taxCharge(terms: Terms, charge: Charge, codeDiscount: number): PaymentPart {
  const { input, destination, reverseCharge } = terms;
  const { line } = charge.of;
  const discounted = charge.amount - codeDiscount;
  const row =
    charge.due === input.now || charge.part === 'instalment' ? terms.row : findTaxRow(input.taxTable, destination.country, destination.region, charge.due);
  const taxShares = basesByClass(line, discounted).map(([taxClass, base]): TaxShare => {
    const { rate, net, tax, total } = taxAmount(base, rateOf(row, taxClass), input.shop.pricesIncludeTax, reverseCharge);
    return { taxClass, base, rate, net, tax, total };
  });
  const sum = (of: (share: TaxShare) => number) => taxShares.reduce((total, share) => total + of(share), 0);
  return {
    lineId: line.id,
    part: charge.part,
    number: charge.number,
    amount: charge.amount,
    codeDiscount,
    discounted,
    // A bundle of several classes has no one rate; the shares say each.
    rate: taxShares.length === 1 ? (taxShares[0]?.rate ?? 0) : 0,
    net: sum((share) => share.net),
    tax: sum((share) => share.tax),
    total: sum((share) => share.total),
    taxShares,
  };
}

/** An amount split over tax classes: a bundle's by its parts' regular prices (largest remainder), anything else whole. */
function basesByClass(line: QuoteLineInput, amount: number): Array<[TaxShare['taxClass'], number]> {
  if (!line.parts) return [[line.taxClass, amount]];
  const weights = new Map<TaxShare['taxClass'], number>();
  for (const part of line.parts) weights.set(part.taxClass, (weights.get(part.taxClass) ?? 0) + part.regular * part.quantity);
  const classes = [...weights.keys()];
  const values = [...weights.values()];
  // Parts that are all free say nothing about the price; the bundle's own class does.
  if (values.every((value) => value === 0)) return [[line.taxClass, amount]];
  const bases = splitByWeight(amount, values);
  return classes.map((taxClass, index) => [taxClass, bases[index] ?? 0]);
}

/**
 * Shipping of one payment: by the table for the whole order, less what was paid before (never under 0), at the highest
 * rate of the whole order's physical lines.
 * @param sent lines whose parcels go out with this payment
 * @param value all lines after discounts, minor units
 * @returns null if nothing is sent, or why the table has no rate
 */
export function shipPayment(
  terms: Terms,
  sent: readonly QuoteLineInput[],
  value: number,
  due: number,
  bought: QuoteInput['bought'],
): ShippingCharge | null | NoRate {
  const { input, destination, reverseCharge } = terms;
  const before = (bought?.lines ?? []).filter((line) => line.sent !== false && parcelOf(line));
  if (!sent.some((line) => parcelOf(line)) && before.length === 0) return null;
  const weight =
    sent.reduce((sum, line) => sum + (parcelOf(line)?.weight ?? 0) * line.quantity, 0) +
    // What was bought states the weight of all its units together, a bundle’s parts included.
    before.reduce((sum, line) => sum + line.weight, 0);
  const whole = value + (bought?.lines ?? []).reduce((sum, line) => sum + line.value, 0);
  const cost = shippingCost(input.shippingTable, destination, weight, whole);
  if (typeof cost === 'string') return cost;
  const row = due === input.now ? terms.row : findTaxRow(input.taxTable, destination.country, destination.region, due);
  const classes = [...sentClasses([...input.lines, ...(input.bought?.lines ?? [])]), ...(input.sentClasses ?? [])];
  const rate = Math.max(0, ...classes.map((taxClass) => rateOf(row, taxClass)));
  const paidBefore = bought?.shipping ?? 0;
  const amount = Math.max(0, cost.amount - paidBefore);
  const taxed = taxAmount(amount, rate, input.shop.pricesIncludeTax, reverseCharge);
  return { zone: cost.zone, reason: cost.reason, listed: cost.amount, paidBefore, weight, value: whole, ...taxed };
}
