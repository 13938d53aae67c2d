import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Code } from '../src/codes';
import { PlanTermsSchema, planTermsOf, upcomingPayments } from '../src/plans';
import { boughtBy, type LaterPayment, type Quote, type QuoteInput, quote, readQuote, storedQuote } from '../src/pricing';
import { anyCode, lines, where } from './support/anyCart';
import { code, input, line, NOW, wheel } from './support/cart';

const NEXT = 4;
const shopOf = ({ shop, taxTable, shippingTable }: QuoteInput) => ({ settings: shop, taxTable, shippingTable });
/** What the plans of a quote go on owing, from what is kept of them. */
function owed(given: QuoteInput, result: Quote, before: Quote[] = []): LaterPayment[] {
  // As it comes back out of the database.
  const kept = readQuote(JSON.parse(JSON.stringify(storedQuote(result))));
  const terms = planTermsOf(
    kept,
    given.code,
    before.map((each) => storedQuote(each)),
  ).map((plan) => PlanTermsSchema.parse(JSON.parse(JSON.stringify(plan))));
  return upcomingPayments(shopOf(given), terms, given.now, given.now, 600);
}
/** Charge by charge: when, what for, how much of it tax, and what is sent with it. */
const charges = (payments: readonly LaterPayment[], count: number) =>
  payments.slice(0, count).map(({ due, total, tax, codeDiscount, shipping, parts }) => ({
    ...{ due, total, tax, codeDiscount, shipping },
    parts: parts.map(({ lineId, number, amount, discounted, net }) => ({ lineId, number, amount, discounted, net })),
  }));
/** How many payments a quote lists in full: beside a long plan that ends, an endless one is listed for 120 charges only. */
function listedInFull(later: readonly LaterPayment[]): number {
  const last = later.findIndex(({ parts }) => parts.some(({ number }) => number >= 120));
  return last < 0 ? later.length : last + 1;
}
const region = fc.constantFrom(undefined, 'Madeira', 'Açores');

describe('what the checkout promises is what is owed', () => {
  it('charge by charge, of any cart with any code', () => {
    fc.assert(
      fc.property(
        fc.record({ lines: lines(), code: anyCode, minimum: fc.option(fc.integer({ min: 1, max: 300_000 }), { nil: undefined }), region, ...where }),
        (given) => {
          const one: Code | undefined = given.code && { ...given.code, minimum: given.minimum, until: NOW + 1, limit: 5 };
          const asked = input({
            lines: given.lines,
            shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: given.inclusive },
            buyer: { country: given.country, region: given.region, ...(given.business ? { taxNumber: 'NL123456782B12' } : {}) },
            ...(one ? { code: one } : {}),
          });
          const result = quote(asked, NEXT);
          const after = owed(asked, result);
          // Endless plans are listed as far as the quote lists them.
          const count = listedInFull(result.later);
          expect(charges(after, count)).toEqual(charges(result.later, count));
        },
      ),
      { numRuns: 500 },
    );
  });

  it('also of what is added with one click: a code that was promised is spent, and shipping is taxed as the whole order was', () => {
    fc.assert(
      fc.property(fc.record({ first: lines(), added: lines(), code: anyCode, ...where }), (given) => {
        const common = {
          shop: { currency: 'EUR' as const, country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: given.inclusive },
          buyer: { country: given.country },
          ...(given.code ? { code: given.code } : {}),
        };
        const checkout = quote(input({ lines: given.first, ...common }), NEXT);
        const asked = input({ lines: given.added.map((each) => ({ ...each, role: 'upsell' as const })), ...common, bought: boughtBy([checkout]) });
        const result = quote(asked, NEXT);
        const count = listedInFull(result.later);
        expect(charges(owed(asked, result, [checkout]), count)).toEqual(charges(result.later, count));
        const promised = [...checkout.lines, ...checkout.later.flatMap(({ parts }) => parts)].some(({ codeDiscount }) => codeDiscount > 0);
        if (given.code?.payments === 'first' && promised) {
          expect([...result.lines, ...result.later.flatMap(({ parts }) => parts)].every(({ codeDiscount }) => codeDiscount === 0)).toBe(true);
        }
      }),
      { numRuns: 300 },
    );
  });
});

const month = { every: 1, unit: 'month' as const };
const club = line({
  id: 'club',
  productId: 'club',
  price: { kind: 'subscription', regular: 900, interval: month, trial: { days: 14, price: 0 }, charges: null },
});

describe('worked cases', () => {
  const totals = (given: QuoteInput) =>
    owed(given, quote(given))
      .slice(0, 2)
      .map(({ total }) => total);
  it('a code for the first payment comes off the first charge after a free trial, and off no other', () => {
    // 9.00 less 50 % are 4.50, then 9.00
    expect(totals(input({ lines: [club], buyer: { country: 'PT' }, code: code({ percent: 50 }) }))).toEqual([450, 900]);
  });
  it('a minimum that the whole cart reached is not asked of the plan alone', () => {
    const given = input({ lines: [club, line()], buyer: { country: 'PT' }, code: code({ percent: 50 }, { payments: 'every', minimum: 10_000 }) });
    expect(totals(given)).toEqual([450, 450]);
  });
  it('shipping is taxed at the highest rate that the whole order had', () => {
    // A book box at the reduced rate, bought with a wheel at the standard one: 4.90 in PT contain round(490 × 23 / 123) = 92.
    const box = {
      ...wheel,
      id: 'box',
      productId: 'box',
      role: 'main' as const,
      taxClass: 'reduced' as const,
      price: { kind: 'subscription' as const, regular: 1200, interval: month, charges: null },
    };
    const [next] = owed(input({ lines: [box, wheel], buyer: { country: 'PT' } }), quote(input({ lines: [box, wheel], buyer: { country: 'PT' } })));
    expect(next?.shipping).toMatchObject({ total: 490, tax: 92 });
  });
  it('a plan that a discount has made free, or less than a cent a time, is a plan all the same', () => {
    const free = { ...club, discount: { kind: 'percent' as const, percent: 100, base: 'current' as const } };
    expect(totals(input({ lines: [free], buyer: { country: 'PT' } }))).toEqual([0, 0]);
    // 0.60 in twelve parts, less 90 %: 0.06 are eleven of nothing and 0.06 at the end.
    const tiny = line({ price: { kind: 'instalments', regular: 60, count: 12, interval: month }, discount: { kind: 'percent', percent: 90, base: 'current' } });
    expect(
      owed(input({ lines: [tiny], buyer: { country: 'PT' } }), quote(input({ lines: [tiny], buyer: { country: 'PT' } }))).map(({ total }) => total),
    ).toEqual([...Array(10).fill(0), 6]);
  });
});
