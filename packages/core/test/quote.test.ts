import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { currentPrice } from '../src/catalog';
import { applyOfferDiscount, type QuoteLineInput as LineInput, QuoteInputSchema, quote } from '../src/pricing';
import { code, input, line, NOW, wheel } from './support/cart';

const HOUR = 3_600_000;

describe('the price of one unit', () => {
  const price = { kind: 'one-time', regular: 16_800, sale: { amount: 13_800, from: NOW, until: NOW + HOUR } } as const;
  it('is the sale price from its start, included, to its end, excluded', () => {
    expect([NOW - 1, NOW, NOW + HOUR - 1, NOW + HOUR].map((at) => currentPrice(price, at).current)).toEqual([16_800, 13_800, 13_800, 16_800]);
  });
  it('treats a missing bound as open', () => {
    expect(currentPrice({ ...price, sale: { amount: 100 } }, 0).current).toBe(100);
  });
});

describe('an offer’s own discount', () => {
  it.each([
    // 20 % off the regular 24.00 = 19.20
    [{ kind: 'percent', percent: 20, base: 'regular' }, { regular: 2400, current: 2400 }, 1920, false],
    // 10 % off the regular 100.00 = 90.00, dearer than the sale price of 80.00, so 80.00 is charged and said
    [{ kind: 'percent', percent: 10, base: 'regular' }, { regular: 10_000, current: 8000 }, 8000, true],
    // 10 % off the current 80.00 = 72.00
    [{ kind: 'percent', percent: 10, base: 'current' }, { regular: 10_000, current: 8000 }, 7200, false],
    // 30.00 off 24.00 is 0, never less
    [{ kind: 'amount', amount: 3000, base: 'regular' }, { regular: 2400, current: 2400 }, 0, false],
  ] as const)('%j', (discount, prices, unit, dearer) => {
    expect(applyOfferDiscount(prices, discount)).toEqual({ unit, dearer });
  });
});

describe('a quote', () => {
  it('keeps an inclusive price and says the destination’s tax in it', () => {
    // 138.00 to the Netherlands: 13800 × 21 ÷ 121 = 2395.04 → 23.95 tax, 114.05 net
    const result = quote(input());
    expect(result.dueToday).toBe(13_800);
    expect(result.lines[0]).toMatchObject({ rate: 21, tax: 2395, net: 11_405, total: 13_800 });
  });

  it('puts tax on top where prices exclude it', () => {
    // 138.00 + 21 % = 138.00 + 28.98
    const result = quote(input({ shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: false } }));
    expect(result.dueToday).toBe(16_698);
  });

  it('leaves an inclusive price as it is outside all tax areas', () => {
    expect(quote(input({ buyer: { country: 'US', validTaxNumber: false } }))).toMatchObject({ dueToday: 13_800, tax: 0 });
  });

  it('takes the destination’s rate out under reverse charge, but not at home', () => {
    // 13800 − 2395 = 11405
    expect(quote(input({ buyer: { country: 'NL', validTaxNumber: true } }))).toMatchObject({ reverseCharge: true, tax: 0, dueToday: 11_405 });
    expect(quote(input({ buyer: { country: 'PT', validTaxNumber: true } }))).toMatchObject({ reverseCharge: false, dueToday: 13_800 });
  });

  it('sends parcels by weight, free from a value that equality reaches, and names a country it cannot reach', () => {
    // one wheel: 120 g, 24.00 → 4.90 post; tax of the post 490 × 21 ÷ 121 = 85.04 → 0.85
    expect(quote(input({ lines: [wheel] })).shipping).toMatchObject({ total: 490, tax: 85, rate: 21 });
    // three wheels: 360 g → 8.90
    expect(quote(input({ lines: [{ ...wheel, quantity: 3 }] })).shipping?.total).toBe(890);
    // 100.00 exactly: free
    expect(quote(input({ lines: [{ ...wheel, price: { kind: 'one-time', regular: 10_000 } }] })).shipping?.total).toBe(0);
    const nowhere = quote(input({ lines: [wheel], buyer: { country: 'US', validTaxNumber: false } }));
    expect(nowhere.problems).toEqual([{ path: 'buyer.country', message: expect.stringContaining('do not send') }]);
  });

  it('takes a percent code per line and a fixed code over all lines', () => {
    // 10 % of 138.00 = 13.80 and of 24.00 = 2.40
    const percent = quote(input({ lines: [line(), wheel], code: code({ percent: 10 }) }));
    expect(percent.lines.map((each) => each.codeDiscount)).toEqual([1380, 240]);
    // 10.00 over 138.00 : 24.00 = 851.85 and 148.15 → 8.52 and 1.48; due 162.00 − 10.00, post free from 100.00
    const fixed = quote(input({ lines: [line(), wheel], code: code({ fixed: 1000 }) }));
    expect(fixed.lines.map((each) => each.codeDiscount)).toEqual([852, 148]);
    expect(fixed.dueToday).toBe(15_200);
  });

  it('says why a code does not apply', () => {
    const late = quote(input({ code: code({ fixed: 100 }, { until: NOW }) }));
    expect(late.code).toMatchObject({ applied: false, reason: 'This code has ended.' });
    expect(late.dueToday).toBe(13_800);
    const other = quote(input({ code: code({ percent: 50 }, { scope: { kind: 'products', productIds: ['wheel'] } }) }));
    expect(other.code).toMatchObject({ applied: false, discount: 0 });
  });

  it('charges nothing for what is free', () => {
    expect(quote(input({ lines: [line({ price: { kind: 'free' } })] }))).toMatchObject({ dueToday: 0, tax: 0 });
  });
});

const anyLine = fc.record({
  id: fc.uuid(),
  productId: fc.constantFrom('course', 'wheel', 'torch'),
  name: fc.constant('Thing'),
  role: fc.constantFrom('main' as const, 'bump' as const),
  kind: fc.constantFrom('digital' as const, 'physical' as const),
  taxClass: fc.constantFrom('standard' as const, 'reduced' as const, 'digital' as const, 'exempt' as const),
  weight: fc.integer({ min: 0, max: 2000 }),
  price: fc.integer({ min: 1, max: 5_000_000 }).map((regular) => ({ kind: 'one-time' as const, regular })),
  quantity: fc.integer({ min: 1, max: 20 }),
});
const anyInput = fc.record({
  lines: fc.array(anyLine, { minLength: 1, maxLength: 5 }),
  country: fc.constantFrom('PT', 'NL', 'DE'),
  inclusive: fc.boolean(),
  business: fc.boolean(),
  percent: fc.integer({ min: 1, max: 99 }),
});

describe('every quote', () => {
  const of = ({ lines, country, inclusive, business }: { lines: LineInput[]; country: string; inclusive: boolean; business: boolean }, percent?: number) =>
    quote(
      input({
        lines,
        shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: inclusive },
        buyer: { country, validTaxNumber: business },
        ...(percent === undefined ? {} : { code: code({ percent }) }),
      }),
    );

  it('adds up, line by line and in all, and is never negative', () => {
    fc.assert(
      fc.property(anyInput, (given) => {
        const result = of(given, given.percent);
        const parts = result.shipping ? [...result.lines, result.shipping] : result.lines;
        for (const part of parts) {
          expect(part.net + part.tax).toBe(part.total);
          expect(Math.min(part.net, part.tax, part.total)).toBeGreaterThanOrEqual(0);
        }
        expect(parts.reduce((sum, part) => sum + part.total, 0)).toBe(result.dueToday);
        expect(parts.reduce((sum, part) => sum + part.tax, 0)).toBe(result.tax);
      }),
    );
  });

  it('costs no more with a bigger discount, and does not mind the order of lines', () => {
    fc.assert(
      fc.property(anyInput, (given) => {
        // Post is left out: less in the cart may lose the free post, which is no matter of the discount.
        const lines = given.lines.map((each) => ({ ...each, kind: 'digital' as const }));
        const [less, more] = [of({ ...given, lines }, given.percent), of({ ...given, lines }, given.percent + 1)];
        expect(more.dueToday).toBeLessThanOrEqual(less.dueToday);
        expect(of({ ...given, lines: lines.toReversed() }, given.percent).dueToday).toBe(less.dueToday);
      }),
    );
  });

  it('is given by an input that its schema accepts', () => {
    expect(QuoteInputSchema.safeParse(input({ lines: [line(), wheel] })).success).toBe(true);
    expect(QuoteInputSchema.safeParse(input({ lines: [line({ quantity: 0 })] })).success).toBe(false);
  });
});
