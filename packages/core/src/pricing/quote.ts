import { z } from 'zod';
import { currentPrice, LineRoleSchema, PriceSchema, ProductKindSchema, struckBeside, TaxClassSchema, withoutHistory } from '../catalog';
import { codeRefusal, isEligible } from '../codes';
import { type Charge, chargesToday, laterCount, laterGroups, type PricedLine } from './charge';
import { applyOfferDiscount } from './discount';
import { discountPayment, PaymentPartSchema, parcelOf, type ShippingCharge, ShippingChargeSchema, shipPayment, type Terms, taxCharge } from './payment';
import { isoDate } from './planDates';
import { PlanSummarySchema, planSummaries } from './planSummary';
import { BundlePartSchema, type QuoteInput, type QuoteLineInput } from './quoteInput';
import type { NoRate } from './shippingTable';
import { checkTaxNumber, taxNumberCountry } from './taxNumber';
import { findTaxRow } from './taxTable';

/** A line of what is due today. A set-up fee is a line of its own. Amounts in minor units. */
export const QuoteLineSchema = PaymentPartSchema.extend({
  id: z.string().describe('The cart line’s id; a set-up fee’s ends in “:set-up”'),
  productId: z.string(),
  editionId: z.string().optional(),
  priceId: z.string().optional(),
  name: z.string(),
  role: LineRoleSchema,
  kind: ProductKindSchema,
  taxClass: TaxClassSchema,
  quantity: z.int(),
  of: z.int().nullable().describe('How many charges the plan has; null for endless and for no plan'),
  regularUnit: z.int(),
  struckUnit: z.int().nullable().optional().describe('What is struck through beside the unit: the lowest price of the 30 days before it was reduced'),
  currentUnit: z.int(),
  unit: z.int().describe('What one is charged at after the offer’s own discount: whole, all instalments, or one period'),
  offerDearer: z.boolean().describe('The offer’s discount came out above the current price, which is charged instead'),
  lineAmount: z.int().describe('unit × quantity: whole, all instalments, or one period'),
  weight: z.number().describe('Grams of all units that are sent'),
  price: PriceSchema.describe('The price of the day, so that a plan keeps it'),
  parts: z.array(BundlePartSchema).optional(),
});
export type QuoteLine = z.infer<typeof QuoteLineSchema>;

/** What falls due at one later moment. */
export const LaterPaymentSchema = z.object({
  due: z.int().describe('Unix time in milliseconds'),
  date: z.string().describe('The same moment in the shop’s time zone, ISO 8601'),
  parts: z.array(PaymentPartSchema),
  shipping: ShippingChargeSchema.nullable(),
  codeDiscount: z.int(),
  tax: z.int(),
  total: z.int(),
});
export type LaterPayment = z.infer<typeof LaterPaymentSchema>;

/** A full quote. All amounts are minor units of `currency`. */
export const QuoteSchema = z.object({
  currency: z.string(),
  pricesIncludeTax: z.boolean(),
  taxCountry: z.string(),
  taxRegion: z.string().optional(),
  reverseCharge: z.boolean(),
  taxNumber: z
    .object({
      number: z.string(),
      valid: z.boolean(),
      message: z.string().optional(),
      unconfirmed: z.boolean().optional().describe('The register has not confirmed it, so that tax is charged'),
    })
    .nullable(),
  lines: z.array(QuoteLineSchema),
  shipping: ShippingChargeSchema.nullable(),
  code: z.object({ code: z.string(), applied: z.boolean(), discount: z.int(), reason: z.string().optional() }).nullable(),
  goods: z.int().describe('Today’s lines after discounts, gross or net as the shop’s prices are'),
  discount: z.int().describe('What the code takes off today'),
  tax: z.int().describe('Tax due today'),
  dueToday: z.int(),
  orderTotal: z.int().describe('All lines after discounts without tax and shipping, every instalment included; what conditions ask for'),
  later: z.array(LaterPaymentSchema).describe('Plans that end, to their end; of endless plans the next dates and amounts'),
  plans: z.array(PlanSummarySchema).describe('What each line goes on owing, summed up'),
  endless: z.boolean().describe('A plan has no end, so that there is no total of what is due later'),
  dueLater: z.int().nullable().describe('All later payments together; null if a plan is endless'),
  total: z.int().nullable().describe('Today and later together; null if a plan is endless'),
  problems: z.array(z.object({ path: z.string(), message: z.string() })).describe('What keeps this cart from being paid'),
});
export type Quote = z.infer<typeof QuoteSchema>;

/** A quote without the payments of its plans one by one: what is shown of a new one and of a stored one alike. */
export type SummedQuote = Omit<Quote, 'later'>;

/** How many charges of an endless plan a quote lists. */
const NEXT_CHARGES = 3;

/**
 * Computes what a cart costs today and later and how each figure came about: unit prices, offer discounts, code,
 * shipping and tax. Pure; rounding is half away from zero at the minor unit, per line and charge. Never throws on a
 * valid input: what keeps the cart from being paid is said in `problems`.
 * @param next of endless plans, how many charges to list
 */
export function quote(input: QuoteInput, next = NEXT_CHARGES): Quote {
  const { shop, buyer, now } = input;
  const problems: Quote['problems'] = [];
  const priced = input.lines.map((line, index): PricedLine => {
    const refusal = choiceRefusal(line);
    if (refusal) problems.push({ path: `lines.${index}.chosen`, message: refusal });
    const prices = currentPrice(line.price, now, line.chosen);
    const { unit, dearer } = line.agreed === undefined ? applyOfferDiscount(prices, line.discount) : { unit: line.agreed, dearer: false };
    return { line, prices, unit, dearer, amount: unit * line.quantity };
  });

  const alone = input.lines.length > 1 ? input.lines.findIndex((line) => line.alone) : -1;
  if (alone >= 0) problems.push({ path: `lines.${alone}`, message: `${input.lines[alone]?.name} can only be bought alone. Take the rest off this order.` });

  const sendsParcel = input.lines.some((line) => parcelOf(line)) || (input.bought?.lines.some((line) => parcelOf(line)) ?? false);
  const destination = sendsParcel && buyer.shipTo ? buyer.shipTo : buyer;
  const row = findTaxRow(input.taxTable, destination.country, destination.region, now);
  const { taxNumber, country: numberCountry } = judgeTaxNumber(buyer);
  const unionOf = (country: string) => findTaxRow(input.taxTable, country, undefined, now)?.union;
  const home = unionOf(shop.country);
  const reverseCharge =
    numberCountry !== null &&
    numberCountry !== shop.country &&
    destination.country !== shop.country &&
    home !== undefined &&
    unionOf(numberCountry) === home &&
    row?.union === home;

  const { code } = input;
  const ordered = [...(input.bought?.lines ?? []), ...priced.map(({ line, amount }) => ({ role: line.role, productId: line.productId, amount }))];
  const refusal = code && codeRefusal(code, input.codeUses, ordered, now);
  const terms: Terms = { input, destination, code: refusal === undefined ? code : undefined, reverseCharge, row };

  // The first charge of an order spends such a code, whether or not it had been typed by then; also one that is only promised, after a trial.
  const spent = { spent: code?.payments === 'first' && (input.bought?.lines ?? []).some((line) => isEligible(code, line) && line.amount > 0) };
  const today = discounted(
    terms,
    priced.flatMap((line) => chargesToday(line, now)),
    spent,
  );
  const groups = laterGroups(priced, now, shop.timeZone, next).map(({ due, charges }) => ({ due, charges: discounted(terms, charges, spent) }));

  const lines = today.map((discountedCharge) => quoteLine(terms, discountedCharge));
  const laterInstalments = groups.flatMap((group) => group.charges.filter(({ charge }) => charge.part === 'instalment'));
  const value = sum([...today, ...laterInstalments], ({ charge, codeDiscount }) => charge.amount - codeDiscount);
  const shipping = shipPayment(terms, sentWith(today), value, now, input.bought);
  let notSent = unsent(shipping);
  const sent = shippingOf(shipping);

  const later = groups.map(({ due, charges }): LaterPayment => {
    const parts = charges.map(({ charge, codeDiscount }) => taxCharge(terms, charge, codeDiscount));
    const renewed = charges.filter(({ charge }) => charge.part === 'period');
    const parcel = shipPayment(
      terms,
      sentWith(renewed),
      sum(parts, (part) => part.discounted),
      due,
      undefined,
    );
    const laterShipping = shippingOf(parcel);
    notSent ??= unsent(parcel);
    return {
      due,
      date: isoDate(due, shop.timeZone),
      parts,
      shipping: laterShipping,
      codeDiscount: sum(parts, (part) => part.codeDiscount),
      tax: sum(parts, (part) => part.tax) + (laterShipping?.tax ?? 0),
      total: sum(parts, (part) => part.total) + (laterShipping?.total ?? 0),
    };
  });

  if (notSent) problems.push({ path: destination === buyer ? 'buyer.country' : 'buyer.shipTo.country', message: NOT_SENT[notSent] });

  const endlessLines = new Set(input.lines.flatMap((line) => (laterCount(line) === Number.POSITIVE_INFINITY ? [line.id] : [])));
  const endless = endlessLines.size > 0;
  const dueToday = sum(lines, (line) => line.total) + (sent?.total ?? 0);
  const dueLater = endless ? null : sum(later, (payment) => payment.total);
  const discount = sum(lines, (line) => line.codeDiscount);
  const netLater = sum(later, (payment) => sum(payment.parts, (part) => (part.part === 'instalment' ? part.net : 0)));
  return {
    currency: shop.currency,
    pricesIncludeTax: shop.pricesIncludeTax,
    taxCountry: destination.country,
    ...(destination.region === undefined ? {} : { taxRegion: destination.region }),
    reverseCharge,
    taxNumber,
    lines,
    shipping: sent,
    code: code ? { code: code.code, applied: refusal === undefined, discount, ...(refusal === undefined ? {} : { reason: refusal }) } : null,
    goods: sum(lines, (line) => line.discounted),
    discount,
    tax: sum(lines, (line) => line.tax) + (sent?.tax ?? 0),
    dueToday,
    orderTotal: sum(lines, (line) => line.net) + netLater,
    later,
    plans: later.length === 0 ? [] : planSummaries(later, (lineId) => endlessLines.has(lineId)),
    endless,
    dueLater,
    total: dueLater === null ? null : dueToday + dueLater,
    problems,
  };
}

/** Why a parcel cannot be sent, in words for the buyer. */
const NOT_SENT: Record<NoRate, string> = {
  'no-zone': 'We do not send parcels to this country.',
  'too-heavy': 'This parcel is too heavy for our shipping rates to this country. Order less at a time.',
  'no-band': 'We have no shipping rate to this country for an order of this value.',
};
const unsent = (shipping: ShippingCharge | null | NoRate) => (typeof shipping === 'string' ? shipping : undefined);
const shippingOf = (shipping: ShippingCharge | null | NoRate) => (typeof shipping === 'string' ? null : shipping);

interface DiscountedCharge {
  charge: Charge;
  codeDiscount: number;
}

function discounted(terms: Terms, charges: Charge[], spent: { spent: boolean }): DiscountedCharge[] {
  const shares = discountPayment(terms, charges, spent);
  return charges.map((charge, index) => ({ charge, codeDiscount: shares[index] ?? 0 }));
}

function quoteLine(terms: Terms, { charge, codeDiscount }: DiscountedCharge): QuoteLine {
  const { line, prices, unit, dearer, amount } = charge.of;
  const isFee = charge.part === 'set-up fee';
  const { price, quantity } = line;
  const fee = isFee ? charge.amount / quantity : 0;
  const taxed = taxCharge(terms, charge, codeDiscount);
  // Written out: spreading this many fields is many times slower, and quotes are made at every change of a form.
  const quoted: QuoteLine = {
    id: isFee ? `${line.id}:set-up` : line.id,
    lineId: taxed.lineId,
    productId: line.productId,
    name: isFee ? `Set-up: ${line.name}` : line.name,
    role: line.role,
    kind: line.kind,
    taxClass: line.taxClass,
    part: taxed.part,
    number: taxed.number,
    of: price.kind === 'instalments' ? price.count : price.kind === 'subscription' ? price.charges : null,
    quantity,
    price: withoutHistory(price),
    struckUnit: isFee ? null : struckBeside(price, unit, terms.input.now),
    regularUnit: isFee ? fee : prices.regular,
    currentUnit: isFee ? fee : prices.current,
    unit: isFee ? fee : unit,
    offerDearer: dearer && !isFee,
    lineAmount: isFee ? charge.amount : amount,
    amount: taxed.amount,
    codeDiscount: taxed.codeDiscount,
    discounted: taxed.discounted,
    rate: taxed.rate,
    net: taxed.net,
    tax: taxed.tax,
    total: taxed.total,
    taxShares: taxed.taxShares,
    weight: isFee ? 0 : (parcelOf(line)?.weight ?? 0) * quantity,
  };
  if (isFee) return quoted;
  if (line.editionId !== undefined) quoted.editionId = line.editionId;
  if (line.priceId !== undefined) quoted.priceId = line.priceId;
  if (line.parts) quoted.parts = line.parts;
  return quoted;
}

/** The lines whose parcels go out with some charges: a free trial charges nothing, so nothing is sent yet. */
function sentWith(charges: readonly DiscountedCharge[]): QuoteLineInput[] {
  return charges.flatMap(({ charge }) => (charge.part === 'set-up fee' || (charge.part === 'trial' && charge.amount === 0) ? [] : [charge.of.line]));
}

/** Why a chosen amount is refused; undefined if it is within its bounds. A code may still bring it lower. */
function choiceRefusal({ price, chosen }: QuoteLineInput): string | undefined {
  if (price.kind !== 'pay-what-you-want' || chosen === undefined) return undefined;
  if (chosen < price.minimum) return 'This is under the smallest amount for this product.';
  if (price.maximum !== undefined && chosen > price.maximum) return 'This is over the largest amount for this product.';
  return undefined;
}

function judgeTaxNumber(buyer: QuoteInput['buyer']): { taxNumber: Quote['taxNumber']; country: string | null } {
  if (buyer.validTaxNumber)
    return { taxNumber: { number: buyer.taxNumber ?? '', valid: true }, country: taxNumberCountry(buyer.taxNumber ?? '') ?? buyer.country };
  if (!buyer.taxNumber?.trim()) return { taxNumber: null, country: null };
  const check = checkTaxNumber(buyer.taxNumber);
  if (!check.ok) return { taxNumber: { number: buyer.taxNumber, valid: false, message: check.message }, country: null };
  if (buyer.register === 'unknown')
    return { taxNumber: { number: check.number, valid: false, message: 'The register of business tax numbers does not know this number.' }, country: null };
  if (buyer.register === 'silent' || buyer.register === 'unasked')
    return { taxNumber: { number: check.number, valid: true, unconfirmed: true }, country: null };
  return { taxNumber: { number: check.number, valid: true }, country: check.country };
}

function sum<T>(items: readonly T[], of: (item: T) => number): number {
  let total = 0;
  for (const item of items) total += of(item);
  return total;
}
