import { describe, expect, it } from 'vitest';
import { type Code, type CodeLine, CodeSchema, codeRefusal, codeShares, isEligible } from '../src/codes';
import { schedule } from '../src/plans';
import { quote } from '../src/pricing';
import { code, exclusive, input, line, NOW, wheel } from './support/cart';

const lines: CodeLine[] = [
  { role: 'main', productId: 'course', amount: 13_800 },
  { role: 'bump', productId: 'wheel', amount: 2400 },
  { role: 'upsell', productId: 'sketching', amount: 7200 },
];

describe('what a code takes off each line', () => {
  const taken = (one: Code) =>
    codeShares(
      one.discount,
      lines.map((each) => (isEligible(one, each) ? each.amount : 0)),
    );
  it.each<[Code, number[]]>([
    [code({ percent: 10 }), [1380, 240, 720]],
    [code({ percent: 10 }, { scope: { kind: 'main' } }), [1380, 0, 0]],
    [code({ percent: 10 }, { scope: { kind: 'products', productIds: ['wheel', 'sketching'] } }), [0, 240, 720]],
    // A fixed code leaves upsells out: 1000 × 138 ÷ 162 = 851.85, 1000 × 24 ÷ 162 = 148.15
    [code({ fixed: 1000 }), [852, 148, 0]],
    // More than there is takes all there is, and no more.
    [code({ fixed: 99_000 }, { scope: { kind: 'main' } }), [13_800, 0, 0]],
    // 12.5 % of 24.00 = 3.00; of 138.00 = 17.25; of 72.00 = 9.00
    [code({ percent: 12.5 }), [1725, 300, 900]],
  ])('%j', (one, expected) => {
    expect(taken(one)).toEqual(expected);
  });
  it('splits a fixed code over three equal lines, the cent that is left to the earliest', () => {
    // 10.00 over 5.00 : 5.00 : 5.00 = 3.333 each; 3.33 + 3.33 + 3.33 = 9.99, the last cent to the first line
    expect(codeShares({ kind: 'fixed', amount: 1000 }, [500, 500, 500])).toEqual([334, 333, 333]);
  });
});

describe('a code that does not apply', () => {
  it.each<[Partial<Code>, string]>([
    [{ on: false }, 'switched off'],
    [{ from: NOW + 1 }, 'not valid yet'],
    [{ until: NOW }, 'has ended'],
    [{ minimum: 23_401 }, 'minimum'],
    [{ limit: 5 }, 'used up'],
    [{ limitPerBuyer: 1 }, 'already'],
    [{ scope: { kind: 'products', productIds: ['torch'] } }, 'other products'],
  ])('%j says why', (changes, reason) => {
    expect(codeRefusal({ ...code({ percent: 10 }), ...changes }, { total: 5, byBuyer: 1 }, lines, NOW)).toContain(reason);
  });
  it('applies at its first moment, its last, and at its minimum', () => {
    const edges = { ...code({ percent: 10 }), from: NOW, until: NOW + 1, minimum: 23_400, limit: 6, limitPerBuyer: 2 };
    expect(codeRefusal(edges, { total: 5, byBuyer: 1 }, lines, NOW)).toBeUndefined();
  });
});

describe('a code meets', () => {
  it('a sale: it comes off the sale price', () => {
    // sale 138.00 instead of 168.00; 10 % = 13.80; due 124.20
    const price = { kind: 'one-time' as const, regular: 16_800, sale: { amount: 13_800 } };
    expect(quote(input({ lines: [line({ price })], code: code({ percent: 10 }) })).dueToday).toBe(12_420);
  });
  it('a bump’s own discount: it comes off what is left', () => {
    // 24.00 − 20 % = 19.20; 10 % of 19.20 = 1.92; 17.28. The course: 138.00 − 13.80. No post from 100.00 on.
    const bump = { ...wheel, discount: { kind: 'percent' as const, percent: 20, base: 'regular' as const } };
    const result = quote(input({ lines: [line(), bump], code: code({ percent: 10 }) }));
    expect(result.lines.map((each) => each.discounted)).toEqual([12_420, 1728]);
    expect(result.dueToday).toBe(14_148);
  });
  it('inclusive tax on three lines of three classes', () => {
    // 10.00 off 100.00 + 20.00 + 18.00 = 138.00: 1000 × 10000 ÷ 13800 = 724 rest 8800; × 2000 = 144 rest 12800;
    // × 1800 = 130 rest 6000. 724 + 144 + 130 = 998, so a cent each to the larger rests: 725, 145, 130.
    const cart = [
      line({ price: { kind: 'one-time', regular: 10_000 } }),
      line({ id: 'b', productId: 'guide', taxClass: 'digital', price: { kind: 'one-time', regular: 2000 } }),
      line({ id: 'c', productId: 'zine', taxClass: 'reduced', price: { kind: 'one-time', regular: 1800 } }),
    ];
    const result = quote(input({ lines: cart, code: code({ fixed: 1000 }) }));
    expect(result.lines.map((each) => each.codeDiscount)).toEqual([725, 145, 130]);
    // NL 21 % and 9 %: 9275 × 21 ÷ 121 = 1609.71; 1855 × 9 ÷ 109 = 153.17; 1670 × 9 ÷ 109 = 137.89
    expect(result.lines.map((each) => each.tax)).toEqual([1610, 153, 138]);
    expect(result).toMatchObject({ dueToday: 12_800, tax: 1901 });
  });
  it('prices without tax: the discount is net, tax comes on what is left', () => {
    // 138.00 − 10.00 = 128.00 net; 21 % = 26.88
    expect(quote(input({ shop: exclusive, code: code({ fixed: 1000 }) }))).toMatchObject({ dueToday: 15_488, tax: 2688 });
  });
  it('instalments, each by itself', () => {
    // 180.00 in 4 × 45.00; 10 % of 45.00 = 4.50 each: 40.50 × 4 = 162.00
    const price = { kind: 'instalments' as const, regular: 18_000, count: 4, interval: { every: 1, unit: 'month' as const } };
    const every = quote(input({ lines: [line({ price })], code: code({ percent: 10 }, { payments: 'every' }) }));
    expect([every.dueToday, ...every.later.map((payment) => payment.total)]).toEqual([4050, 4050, 4050, 4050]);
    // Only the first: 40.50 + 3 × 45.00 = 175.50
    const first = quote(input({ lines: [line({ price })], code: code({ percent: 10 }) }));
    expect([first.dueToday, first.dueLater, first.total]).toEqual([4050, 13_500, 17_550]);
    // A fixed 10.00 acts whole on each payment it applies to: 4 × 35.00
    expect(quote(input({ lines: [line({ price })], code: code({ fixed: 1000 }, { payments: 'every' }) })).total).toBe(14_000);
  });
  it('a free trial: the first payment is the first above 0', () => {
    const price = { kind: 'subscription' as const, regular: 900, interval: { every: 1, unit: 'month' as const }, trial: { days: 14, price: 0 }, charges: null };
    const { dueToday, payments } = schedule({ ...input({ lines: [line({ price })], code: code({ percent: 50 }) }), next: 3 });
    expect([dueToday, ...payments.map((payment) => payment.total)]).toEqual([0, 450, 900, 900]);
  });
  it('a paid trial and a set-up fee: the trial counts as a payment, the fee is never cut', () => {
    const price = {
      kind: 'subscription' as const,
      regular: 900,
      interval: { every: 1, unit: 'month' as const },
      trial: { days: 14, price: 100 },
      setUpFee: 500,
      charges: 2,
    };
    const result = quote(input({ lines: [line({ price })], code: code({ percent: 50 }) }));
    expect(result.lines.map((each) => each.total)).toEqual([50, 500]);
    expect([result.dueToday, result.dueLater]).toEqual([550, 1800]);
  });
  it('two lines on the same later day: a fixed code is split over that payment', () => {
    // 9.00 + 45.00 on the same day, 6.00 off: 600 × 900 ÷ 5400 = 100, 600 × 4500 ÷ 5400 = 500
    const interval = { every: 1, unit: 'month' as const };
    const cart = [
      line({ price: { kind: 'subscription', regular: 900, interval, charges: null } }),
      line({ id: 'b', price: { kind: 'instalments', regular: 13_500, count: 3, interval } }),
    ];
    const result = quote(input({ lines: cart, code: code({ fixed: 600 }, { payments: 'every' }) }));
    expect(result.later[0]?.parts.map((part) => part.codeDiscount)).toEqual([100, 500]);
    // The third later payment is the subscription’s alone, and takes the whole 6.00.
    expect(result.later[2]).toMatchObject({ codeDiscount: 600, total: 300 });
  });
  it('a chosen price: a code may bring it under the minimum', () => {
    const price = { kind: 'pay-what-you-want' as const, minimum: 300, suggested: 800 };
    const result = quote(input({ lines: [line({ price, chosen: 300 })], code: code({ fixed: 200 }) }));
    expect(result).toMatchObject({ dueToday: 100, problems: [] });
  });
  it('a bundle: as itself, not as its parts', () => {
    const bundle = line({
      productId: 'kit',
      parts: [{ productId: 'wheel', name: '', kind: 'digital', taxClass: 'standard', weight: 0, regular: 100, quantity: 1 }],
    });
    const only = (id: string) =>
      quote(input({ lines: [bundle], code: code({ percent: 10 }, { scope: { kind: 'products', productIds: [id] } }) })).code?.applied;
    expect([only('kit'), only('wheel')]).toEqual([true, false]);
  });
  it('an upsell: percent codes act on it, fixed ones do not, and the minimum looks at the whole order', () => {
    const upsell = line({ id: 'u', productId: 'sketching', role: 'upsell', price: { kind: 'one-time', regular: 7200 } });
    const bought = {
      lines: [
        { productId: 'course', role: 'main' as const, kind: 'digital' as const, taxClass: 'standard' as const, weight: 0, amount: 13_800, value: 12_420 },
      ],
      shipping: 0,
    };
    const add = (one: Code) => quote(input({ lines: [upsell], bought, code: one })).dueToday;
    expect(add(code({ percent: 10 }, { minimum: 20_000, payments: 'every' }))).toBe(6480);
    // for the first payment only, it was spent on the course, whatever that came to after it
    expect(add(code({ percent: 10 }, { minimum: 20_000 }))).toBe(7200);
    // a free trial charged nothing yet, but the code is promised to its first charge: none is left for the upsell
    const trial = { ...bought, lines: bought.lines.map((each) => ({ ...each, value: 0 })) };
    expect(quote(input({ lines: [upsell], bought: trial, code: code({ percent: 10 }) })).dueToday).toBe(7200);
    // a gift promises nothing: the upsell is the first charge above 0
    const gift = { ...bought, lines: bought.lines.map((each) => ({ ...each, amount: 0, value: 0 })) };
    expect(quote(input({ lines: [upsell], bought: gift, code: code({ percent: 10 }) })).dueToday).toBe(6480);
    expect(add(code({ fixed: 1000 }))).toBe(7200);
  });
});

describe('a code’s own terms', () => {
  it.each<[object, string]>([
    [{ discount: { kind: 'percent', percent: 101 } }, 'at most 100'],
    [{ discount: { kind: 'percent', percent: 0 } }, 'more than nothing'],
    [{ from: 2, until: 1 }, 'end after it starts'],
    [{ code: 'two words' }, 'letters, digits'],
    [{ limit: 0 }, 'at least one'],
  ])('%j is refused', (changes, message) => {
    const result = CodeSchema.safeParse({ ...code({ percent: 10 }), ...changes });
    expect(result.error?.issues.map((issue) => issue.message).join()).toContain(message);
  });
});
