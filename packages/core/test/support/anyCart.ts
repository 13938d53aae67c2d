import fc from 'fast-check';
import type { Price } from '../../src/catalog';
import type { Code } from '../../src/codes';
import type { QuoteLineInput } from '../../src/pricing';
import { code } from './cart';

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
export const lines = (lineKind = kind) => fc.uniqueArray(anyLine(lineKind), { minLength: 1, maxLength: 5, selector: (line) => line.id });
const scope = fc.constantFrom<Code['scope']>({ kind: 'order' }, { kind: 'main' }, { kind: 'products', productIds: ['wheel', 'torch'] });
export const payments = fc.constantFrom('first' as const, 'every' as const);
export const anyCode: fc.Arbitrary<Code | undefined> = fc.oneof(
  fc.constant(undefined),
  fc.tuple(fc.integer({ min: 1, max: 100 }), scope, payments).map(([percent, where, when]) => code({ percent }, { scope: where, payments: when })),
  fc.tuple(fc.integer({ min: 1, max: 300_000 }), scope, payments).map(([fixed, where, when]) => code({ fixed }, { scope: where, payments: when })),
);
export const where = { country: fc.constantFrom('PT', 'NL', 'DE', 'US'), inclusive: fc.boolean(), business: fc.boolean() };
