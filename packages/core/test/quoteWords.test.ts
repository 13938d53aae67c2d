import { describe, expect, it } from 'vitest';
import type { Price } from '../src/catalog';
import { dateWords, laterWords, lineSteps, partWords, quote, sumTable, sumText } from '../src/pricing';
import { code, exclusive, input, line, wheel } from './support/cart';

const monthly = { every: 1, unit: 'month' as const };
const of = (price: Price, changes: Parameters<typeof input>[0] = {}) => quote(input({ lines: [line({ price })], ...changes }));

describe('what is due later, in words', () => {
  it.each<[Price, string[]]>([
    [{ kind: 'one-time', regular: 100 }, []],
    [
      { kind: 'instalments', regular: 18_000, count: 4, interval: monthly },
      ['Then 3 payments of €45.00 a month, from 15 April 2026 to 15 June 2026, €135.00 in all.'],
    ],
    [
      { kind: 'instalments', regular: 10_000, count: 3, interval: { every: 2, unit: 'week' } },
      ['Then 2 payments, the first €33.33, the last €33.34 every 2 weeks, from 29 March 2026 to 12 April 2026, €66.67 in all.'],
    ],
    [{ kind: 'instalments', regular: 10_000, count: 2, interval: monthly }, ['Then €50.00 on 15 April 2026.']],
    [{ kind: 'subscription', regular: 900, interval: monthly, charges: null }, ['Then €9.00 a month, from 15 April 2026 until you cancel.']],
    [
      { kind: 'subscription', regular: 900, interval: monthly, trial: { days: 14, price: 0 }, charges: null },
      ['Then €9.00 a month, from 29 March 2026 until you cancel.'],
    ],
    [{ kind: 'subscription', regular: 900, interval: monthly, charges: 1 }, []],
  ])('%j', (price, words) => {
    expect(laterWords(of(price))).toEqual(words);
  });
  it('says when a code makes the first of them cheaper', () => {
    const price: Price = { kind: 'subscription', regular: 900, interval: monthly, trial: { days: 14, price: 0 }, charges: null };
    expect(laterWords(of(price, { code: code({ fixed: 400 }) }))).toEqual(['Then €5.00 on 29 March 2026, and €9.00 a month after that until you cancel.']);
  });
  it('names each plan where there are several things', () => {
    const lines = [line({ price: { kind: 'subscription', regular: 900, interval: monthly, charges: null } }), wheel];
    expect(laterWords(quote(input({ lines })))).toEqual(['Course: then €9.00 a month, from 15 April 2026 until you cancel.']);
  });
  it('writes a day as it stands in the shop’s zone', () => {
    expect(dateWords('2026-03-31T00:30:00.000+01:00')).toBe('31 March 2026');
  });
});

describe('what part of a plan a line is', () => {
  const words = (price: Price) => of(price).lines.map(partWords);
  it.each<[Price, string[]]>([
    [{ kind: 'one-time', regular: 100 }, ['']],
    [{ kind: 'instalments', regular: 18_000, count: 4, interval: monthly }, ['1st of 4 payments']],
    [{ kind: 'subscription', regular: 900, interval: monthly, charges: null }, ['first month']],
    [{ kind: 'subscription', regular: 900, interval: { every: 3, unit: 'month' }, charges: null }, ['first 3 months']],
    [{ kind: 'subscription', regular: 900, interval: monthly, trial: { days: 1, price: 100 }, setUpFee: 500, charges: null }, ['1 day on trial', '']],
  ])('%j', (price, expected) => {
    expect(words(price)).toEqual(expected);
  });
});

describe('how a line adds up', () => {
  const steps = (changes: Parameters<typeof input>[0]) => {
    const result = quote(input(changes));
    return result.lines[0] ? lineSteps(result.lines[0], result).map((step) => `${step.label}: ${step.value}`) : [];
  };
  it('names sale, offer, quantity, code and tax, each with its amount', () => {
    const price: Price = { kind: 'one-time', regular: 10_000, sale: { amount: 8000 } };
    const discount = { kind: 'percent' as const, percent: 10, base: 'current' as const };
    // 2 × 72.00 = 144.00; − 14.40 = 129.60; 12960 × 21 ÷ 121 = 2249.26
    expect(steps({ lines: [line({ price, discount, quantity: 2 })], code: code({ percent: 10 }) })).toEqual([
      'Regular price of one: €100.00',
      'Sale price of one: €80.00',
      'With the offer’s own discount: €72.00',
      '× 2: €144.00',
      'Code NIGHT: −€14.40',
      'After discounts: €129.60',
      'Tax within, 21 %: €129.60 × 21 ÷ 121: €22.49',
      'To pay today: €129.60',
    ]);
  });
  it('says tax on top, none, and reverse charge', () => {
    expect(steps({ shop: exclusive }).slice(-2)).toEqual(['Tax on top, 21 % of €138.00: €28.98', 'To pay today: €166.98']);
    expect(steps({ buyer: { country: 'US' } })).toContain('No tax here: €0.00');
    expect(steps({ buyer: { country: 'NL', validTaxNumber: true } })).toContain('Reverse charge, without tax: €114.05');
  });
  it('says that an offer came out dearer than the price that is on', () => {
    const price: Price = { kind: 'one-time', regular: 10_000, sale: { amount: 8000 } };
    const discount = { kind: 'percent' as const, percent: 10, base: 'regular' as const };
    expect(steps({ lines: [line({ price, discount })] })).toContain('The offer’s discount came out dearer, so the current price holds: €80.00');
  });
});

describe('the table of what was bought, in plain text', () => {
  it('adds up under reverse charge, and names who accounts for the tax', () => {
    // 138.00 contain 25.81 at NL's 21 %: 23.95; without them 114.05 are due.
    const given = input({ buyer: { country: 'NL', taxNumber: 'NL123456782B12' } });
    expect(sumText(sumTable(quote(given), 'Paid'))).toEqual([
      'Course: €138.00',
      'Tax taken off (reverse charge): −€23.95',
      'Paid: €114.05',
      'Reverse charge: the buyer accounts for the tax',
      'Tax number of the buyer: NL123456782B12',
    ]);
  });
  it('has code, shipping, tax and which payment it is', () => {
    const plan = line({ id: 'p', productId: 'plan', price: { kind: 'instalments', regular: 18_000, count: 4, interval: { every: 1, unit: 'month' } } });
    const rows = sumText(sumTable(quote(input({ lines: [plan, wheel], buyer: { country: 'PT' }, code: code({ percent: 10 }) })), 'Paid'));
    // 45.00 and 24.00 less 10 % are 62.10, and a plan of 180.00 ships free; of 40.50 and 21.60 are 23/123 tax: 7.57 + 4.04.
    expect(rows.slice(0, 6)).toEqual([
      'Course, 1st of 4 payments: €45.00',
      'Wheel: €24.00',
      'Code NIGHT: −€6.90',
      'Shipping to Portugal: Free',
      'Paid: €62.10',
      'includes €11.61 tax (Portugal 23 %)',
    ]);
  });
});
