import { z } from 'zod';
import { currentPrice, PriceSchema, ProductKindSchema, TaxClassSchema } from '../catalog';
import { percentOf, taxWithin } from '../money';
import { CountrySchema, ShopSchema } from '../shop';
import { applyCode, applyOfferDiscount, CodeSchema, OfferDiscountSchema } from './discount';
import { ShippingTableSchema, shippingCost } from './shippingTable';
import { findTaxRow, rateOf, TaxTableSchema } from './taxTable';

export const LineRoleSchema = z.enum(['main', 'bump', 'upsell']);
export type LineRole = z.infer<typeof LineRoleSchema>;

/** One thing in the cart, with all that its price depends on. */
export const QuoteLineInputSchema = z.object({
  id: z.string(),
  productId: z.string(),
  name: z.string(),
  role: LineRoleSchema,
  kind: ProductKindSchema,
  taxClass: TaxClassSchema,
  weight: z.number().min(0).default(0).describe('Grams of one unit'),
  price: PriceSchema,
  quantity: z.int().min(1, 'Choose at least one.').max(9999, 'This is more than can be ordered at once.'),
  discount: OfferDiscountSchema.optional(),
});

/** Everything a quote depends on: the same input always gives the same quote. */
export const QuoteInputSchema = z.object({
  shop: ShopSchema.pick({ currency: true, country: true, timeZone: true, pricesIncludeTax: true }),
  taxTable: TaxTableSchema,
  shippingTable: ShippingTableSchema,
  lines: z.array(QuoteLineInputSchema).min(1, 'There is nothing in the cart.'),
  code: CodeSchema.optional(),
  buyer: z.object({
    country: CountrySchema,
    region: z.string().optional(),
    validTaxNumber: z.boolean().default(false).describe('A business number whose format and checksum were found right'),
  }),
  now: z.int().describe('Unix time in milliseconds'),
});
export type QuoteInput = z.infer<typeof QuoteInputSchema>;

/** Tax on one amount. `net + tax = total`; the rate is a percentage. */
export const TaxedSchema = z.object({ rate: z.number(), net: z.int(), tax: z.int(), total: z.int() });
export type Taxed = z.infer<typeof TaxedSchema>;

export const QuoteLineSchema = TaxedSchema.extend({
  id: z.string(),
  productId: z.string(),
  name: z.string(),
  role: LineRoleSchema,
  taxClass: TaxClassSchema,
  quantity: z.int(),
  regularUnit: z.int(),
  currentUnit: z.int(),
  unit: z.int().describe('What one is charged at, after the offer’s own discount'),
  offerDearer: z.boolean().describe('The offer’s discount came out above the current price, which is charged instead'),
  amount: z.int().describe('unit × quantity'),
  codeDiscount: z.int(),
  discounted: z.int().describe('amount − codeDiscount; gross or net as the shop’s prices are'),
});

/** A full quote. All amounts are minor units of `currency`. */
export const QuoteSchema = z.object({
  currency: z.string(),
  pricesIncludeTax: z.boolean(),
  taxCountry: z.string(),
  reverseCharge: z.boolean(),
  lines: z.array(QuoteLineSchema),
  shipping: TaxedSchema.extend({ zone: z.string(), reason: z.string() }).nullable(),
  code: z.object({ code: z.string(), applied: z.boolean(), discount: z.int(), reason: z.string().optional() }).nullable(),
  goods: z.int().describe('Lines after discounts, gross or net as the shop’s prices are'),
  discount: z.int(),
  tax: z.int(),
  dueToday: z.int(),
  problems: z.array(z.object({ path: z.string(), message: z.string() })).describe('What keeps this cart from being paid'),
});
export type Quote = z.infer<typeof QuoteSchema>;

/**
 * Computes what a cart costs and how each figure came about: unit prices, offer discounts, code, shipping and tax.
 * Pure; rounding is half away from zero at the minor unit, per line. Never throws on a valid input: what keeps the
 * cart from being paid is said in `problems`.
 */
export function quote(input: QuoteInput): Quote {
  const { shop, buyer, now } = input;
  const priced = input.lines.map((line) => {
    const prices = currentPrice(line.price, now);
    const { unit, dearer } = applyOfferDiscount(prices, line.discount);
    return { line, prices, unit, dearer, amount: unit * line.quantity };
  });
  const codeLines = priced.map(({ line, amount }) => ({ role: line.role, productId: line.productId, amount }));
  const outcome = input.code ? applyCode(input.code, codeLines, now) : undefined;

  const row = findTaxRow(input.taxTable, buyer.country, buyer.region, now);
  const home = findTaxRow(input.taxTable, shop.country, undefined, now);
  const reverseCharge = buyer.validTaxNumber && buyer.country !== shop.country && row?.union !== undefined && row.union === home?.union;
  const taxed = (amount: number, rate: number) => taxAmount(amount, rate, shop.pricesIncludeTax, reverseCharge);

  const lines = priced.map(({ line, prices, unit, dearer, amount }, index) => {
    const codeDiscount = outcome?.perLine[index] ?? 0;
    const discounted = amount - codeDiscount;
    return {
      id: line.id,
      productId: line.productId,
      name: line.name,
      role: line.role,
      taxClass: line.taxClass,
      quantity: line.quantity,
      regularUnit: prices.regular,
      currentUnit: prices.current,
      unit,
      offerDearer: dearer,
      amount,
      codeDiscount,
      discounted,
      ...taxed(discounted, rateOf(row, line.taxClass)),
    };
  });

  const goods = lines.reduce((sum, line) => sum + line.discounted, 0);
  const problems: Quote['problems'] = [];
  let shipping: Quote['shipping'] = null;
  const parcels = input.lines.filter((line) => line.kind === 'physical');
  if (parcels.length > 0) {
    const weight = parcels.reduce((sum, line) => sum + line.weight * line.quantity, 0);
    const cost = shippingCost(input.shippingTable, buyer, weight, goods);
    if (cost) {
      const rate = Math.max(...parcels.map((line) => rateOf(row, line.taxClass)));
      shipping = { zone: cost.zone, reason: cost.reason, ...taxed(cost.amount, rate) };
    } else {
      problems.push({ path: 'buyer.country', message: 'We do not send parcels to this country.' });
    }
  }

  const taxedParts = shipping ? [...lines, shipping] : lines;
  const discount = lines.reduce((sum, line) => sum + line.codeDiscount, 0);
  return {
    currency: shop.currency,
    pricesIncludeTax: shop.pricesIncludeTax,
    taxCountry: buyer.country,
    reverseCharge,
    lines,
    shipping,
    code: input.code && outcome ? { code: input.code.code, applied: outcome.applied, discount, ...(outcome.applied ? {} : { reason: outcome.reason }) } : null,
    goods,
    discount,
    tax: taxedParts.reduce((sum, part) => sum + part.tax, 0),
    dueToday: taxedParts.reduce((sum, part) => sum + part.total, 0),
    problems,
  };
}

/**
 * Tax of one amount by destination. Inclusive: tax = round(gross × r / (100 + r)) and the total stays. Exclusive:
 * tax = round(net × r / 100) on top. Reverse charge: no tax, and an inclusive amount loses the destination's rate first.
 */
function taxAmount(amount: number, rate: number, inclusive: boolean, reverseCharge: boolean): Taxed {
  const within = inclusive ? taxWithin(amount, rate) : 0;
  if (reverseCharge) return { rate: 0, net: amount - within, tax: 0, total: amount - within };
  if (inclusive) return { rate, net: amount - within, tax: within, total: amount };
  const onTop = percentOf(amount, rate);
  return { rate, net: amount, tax: onTop, total: amount + onTop };
}
