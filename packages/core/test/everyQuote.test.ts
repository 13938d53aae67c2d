import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Price } from '../src/catalog';
import type { Code } from '../src/codes';
import { type Quote, type QuoteInput, type QuoteLineInput, quote } from '../src/pricing';
import { code, input } from './support/cart';

const amount = fc.integer({ min: 60, max: 500_000 });
const interval = fc.record({ every: fc.integer({ min: 1, max: 3 }), unit: fc.constantFrom('week' as const, 'month' as const) });
const anyPrice: fc.Arbitrary<Price> = fc.oneof(
  amount.map((regular) => ({ kind: 'one-time' as const, regular })),
  fc.tuple(amount, amount).map(([a, b]) => ({ kind: 'one-time' as const, regular: Math.max(a, b) + 1, sale: { amount: Math.min(a, b) } })),
  fc.record({ kind: fc.constant('instalments' as const), regular: amount, count: fc.integer({ min: 2, max: 12 }), interval }),
  fc.record({
    kind: fc.constant('subscription' as const),
    regular: amount,
    interval,
    charges: fc.option(fc.integer({ min: 1, max: 6 }), { nil: null }),
    setUpFee: fc.option(amount, { nil: undefined }),
    trial: fc.option(fc.record({ days: fc.integer({ min: 1, max: 30 }), price: fc.constantFrom(0, 100) }), { nil: undefined }),
  }),
  fc.record({ kind: fc.constant('pay-what-you-want' as const), minimum: fc.constant(0), suggested: amount }),
  fc.constant({ kind: 'free' as const }),
);
const taxClass = fc.constantFrom('standard' as const, 'reduced' as const, 'digital' as const, 'exempt' as const);
const kind = fc.constantFrom('digital' as const, 'physical' as const);
const anyParts = fc.array(
  fc.record({
    productId: fc.constant('part'),
    name: fc.constant(''),
    kind,
    taxClass,
    weight: fc.integer({ min: 0, max: 900 }),
    regular: amount,
    quantity: fc.integer({ min: 1, max: 3 }),
  }),
  { minLength: 1, maxLength: 4 },
);
const anyLine = (lineKind: fc.Arbitrary<'digital' | 'physical'>): fc.Arbitrary<QuoteLineInput> =>
  fc.record({
    id: fc.uuid(),
    productId: fc.constantFrom('course', 'wheel', 'torch'),
    name: fc.constant('Thing'),
    role: fc.constantFrom('main' as const, 'bump' as const),
    kind: lineKind,
    taxClass,
    weight: fc.integer({ min: 0, max: 900 }),
    price: anyPrice,
    quantity: fc.integer({ min: 1, max: 5 }),
    discount: fc.option(
      fc.record({
        kind: fc.constant('percent' as const),
        percent: fc.integer({ min: 1, max: 100 }),
        base: fc.constantFrom('regular' as const, 'current' as const),
      }),
      { nil: undefined },
    ),
    parts: fc.option(anyParts, { nil: undefined, freq: 4 }),
  });
const lines = (lineKind = kind) => fc.uniqueArray(anyLine(lineKind), { minLength: 1, maxLength: 5, selector: (line) => line.id });
const scope = fc.constantFrom<Code['scope']>({ kind: 'order' }, { kind: 'main' }, { kind: 'products', productIds: ['wheel', 'torch'] });
const payments = fc.constantFrom('first' as const, 'every' as const);
const anyCode: fc.Arbitrary<Code | undefined> = fc.oneof(
  fc.constant(undefined),
  fc.tuple(fc.integer({ min: 1, max: 100 }), scope, payments).map(([percent, where, when]) => code({ percent }, { scope: where, payments: when })),
  fc.tuple(fc.integer({ min: 1, max: 300_000 }), scope, payments).map(([fixed, where, when]) => code({ fixed }, { scope: where, payments: when })),
);
const where = { country: fc.constantFrom('PT', 'NL', 'DE', 'US'), inclusive: fc.boolean(), business: fc.boolean() };

function of(
  given: { lines: QuoteLineInput[]; code: Code | undefined; country: string; inclusive: boolean; business: boolean },
  changes: Partial<QuoteInput> = {},
): Quote {
  return quote(
    input({
      lines: given.lines,
      shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: given.inclusive },
      buyer: { country: given.country, validTaxNumber: given.business },
      ...(given.code ? { code: given.code } : {}),
      ...changes,
    }),
  );
}
const parts = (result: Quote) => [
  ...result.lines,
  ...result.later.flatMap((payment) => payment.parts),
  ...[result.shipping, ...result.later.map((payment) => payment.shipping)].flatMap((shipping) => shipping ?? []),
];

describe('every quote, of any cart', () => {
  it('adds up in every part, and is never negative', () => {
    fc.assert(
      fc.property(fc.record({ lines: lines(), code: anyCode, ...where }), (given) => {
        const result = of(given);
        for (const part of parts(result)) {
          expect(part.net + part.tax).toBe(part.total);
          expect(Math.min(part.net, part.tax, part.total)).toBeGreaterThanOrEqual(0);
        }
        for (const line of result.lines) {
          expect(line.taxShares.reduce((sum, share) => sum + share.base, 0)).toBe(line.discounted);
          expect(line.amount - line.codeDiscount).toBe(line.discounted);
        }
        const today = [...result.lines, ...(result.shipping ? [result.shipping] : [])];
        expect(today.reduce((sum, part) => sum + part.total, 0)).toBe(result.dueToday);
        expect(today.reduce((sum, part) => sum + part.tax, 0)).toBe(result.tax);
        if (!result.endless) expect(result.later.reduce((sum, payment) => sum + payment.total, 0)).toBe(result.dueLater);
        expect([...result.later].sort((a, b) => a.due - b.due)).toEqual(result.later);
      }),
      { numRuns: 300 },
    );
  });

  it('lets a fixed code act whole on each payment it applies to, and never more than once where it is for the first', () => {
    fc.assert(
      fc.property(
        fc.record({ lines: lines(fc.constant('digital' as const)), ...where }),
        fc.integer({ min: 1, max: 50_000 }),
        payments,
        (given, fixed, when) => {
          const result = of({ ...given, code: code({ fixed }, { payments: when }) });
          const taken = [
            { discount: result.discount, lines: result.lines },
            ...result.later.map((payment) => ({ discount: payment.codeDiscount, lines: payment.parts })),
          ];
          const due = taken.map(({ lines: each }) => each.reduce((sum, part) => sum + (part.part === 'set-up fee' ? 0 : part.amount), 0));
          const first = due.findIndex((value) => value > 0);
          for (const [index, { discount }] of taken.entries()) {
            expect(discount).toBe(when === 'every' || index === first ? Math.min(fixed, due[index] ?? 0) : 0);
          }
        },
      ),
    );
  });

  it('costs no more with a bigger discount, and the order of lines matters to nothing but a tie', () => {
    fc.assert(
      fc.property(fc.record({ lines: lines(fc.constant('digital' as const)), ...where }), fc.integer({ min: 1, max: 99 }), payments, (given, percent, when) => {
        const flat = given.lines.map(({ parts: _parts, ...line }) => line);
        const [less, more] = [percent, percent + 1].map((each) => of({ ...given, lines: flat, code: code({ percent: each }, { payments: when }) }));
        expect(more?.dueToday).toBeLessThanOrEqual(less?.dueToday ?? 0);
        for (const [index, payment] of (more?.later ?? []).entries()) expect(payment.total).toBeLessThanOrEqual(less?.later[index]?.total ?? 0);
        const turned = of({ ...given, lines: flat.toReversed(), code: code({ percent }, { payments: when }) });
        expect([turned.dueToday, turned.later.map((payment) => payment.total)]).toEqual([less?.dueToday, less?.later.map((payment) => payment.total)]);
      }),
    );
  });

  it('asks the same inclusive price of a buyer outside all tax areas as is listed', () => {
    fc.assert(
      fc.property(fc.record({ lines: lines(fc.constant('digital' as const)), code: anyCode }), (given) => {
        const flat = given.lines.map(({ parts: _parts, ...line }) => line);
        const result = of({ ...given, lines: flat, country: 'US', inclusive: true, business: false });
        expect([result.tax, result.dueToday]).toEqual([0, result.goods]);
      }),
    );
  });
});
