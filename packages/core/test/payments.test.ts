import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chooseAccount, isUnderWay } from '../src/payments';
import { type PlanTerms, PlanTermsSchema, upcomingPayments } from '../src/plans';
import { QUOTE_VERSION, quote, readQuote, storedQuote } from '../src/pricing';
import { input, line, NOW } from './support/cart';

describe('the account that takes a payment', () => {
  const account = (id: string, changes: object = {}) => ({ id, weight: 1, cap: null as number | null, taken: 0, ...changes });
  it.each([
    ['the first part of the points by weight', [account('a', { weight: 3 }), account('b')], 0.74, 'a'],
    ['the rest', [account('a', { weight: 3 }), account('b')], 0.75, 'b'],
    ['none with weight 0', [account('a', { weight: 0 }), account('b')], 0, 'b'],
    ['one that the amount just fits into', [account('a', { cap: 1000, taken: 900 })], 0.5, 'a'],
    ['another where it does not', [account('a', { cap: 1000, taken: 901 }), account('b')], 0, 'b'],
    ['nobody where all are full', [account('a', { cap: 50 })], 0, undefined],
    ['nobody where there is none', [], 0, undefined],
  ])('is %s', (_words, accounts, point, expected) => expect(chooseAccount(point, 100, accounts)?.id).toBe(expected));

  it('is one of those that are open, whatever the weights and the point, the end included', () => {
    const weights = fc.array(fc.nat(5), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(weights, fc.double({ min: 0, max: 1, noNaN: true }), (list, point) => {
        const chosen = chooseAccount(
          point,
          1,
          list.map((weight, index) => account(String(index), { weight })),
        );
        expect(chosen === undefined).toBe(list.every((weight) => weight === 0));
        expect(chosen?.weight).not.toBe(0);
      }),
    );
  });

  it('takes no second try while one may still go through', () => {
    expect((['pending', 'needs-confirmation', 'captured', 'declined', 'failed', 'voided'] as const).filter(isUnderWay)).toEqual([
      'pending',
      'needs-confirmation',
    ]);
  });
});

describe('what plans go on owing', () => {
  const shop = { settings: input().shop, taxTable: input().taxTable, shippingTable: [] };
  const terms = (price: object, id = 'plan'): PlanTerms => PlanTermsSchema.parse({ line: { ...line({ id }), price }, buyer: { country: 'PT' } });
  const day = { every: 1, unit: 'day' as const };
  const days = (payments: Array<{ date: string; total: number }>) => payments.map(({ date, total }) => `${date.slice(0, 10)} ${total}`);
  const YEAR = 365 * 24 * 60 * 60 * 1000;

  it('is quoted from the moment it is asked for, however long ago an endless plan began', () => {
    const plan = terms({ kind: 'subscription', regular: 900, interval: day, charges: null });
    const soon = upcomingPayments(shop, [plan], NOW, NOW, 2);
    const after = upcomingPayments(shop, [plan], NOW, NOW + 5 * YEAR, 3);
    expect(soon.map(({ due }) => due > NOW)).toEqual([true, true]);
    expect(after).toHaveLength(3);
    expect(after[0]?.due).toBeGreaterThan(NOW + 5 * YEAR);
    expect((after[0]?.due ?? 0) - (NOW + 5 * YEAR)).toBeLessThanOrEqual(25 * 60 * 60 * 1000);
  });

  it('ends with the last instalment, and takes what falls due together as one payment', () => {
    const thrice = terms({ kind: 'instalments', regular: 10_000, count: 3, interval: day });
    const twice = terms({ kind: 'instalments', regular: 1000, count: 2, interval: day }, 'other');
    // 33.33, 33.33, 33.34 and 5.00, 5.00; the first ones were paid at once
    expect(days(upcomingPayments(shop, [thrice, twice], NOW, NOW, 24)).map((words) => words.split(' ')[1])).toEqual(['3833', '3334']);
    expect(upcomingPayments(shop, [thrice], NOW, NOW + 2 * 24 * 60 * 60 * 1000, 24)).toEqual([]);
    expect(upcomingPayments(shop, [], NOW, NOW, 24)).toEqual([]);
  });
});

describe('a stored quote', () => {
  const plan = input({
    lines: [{ ...line({ id: 'main' }), price: { kind: 'instalments', regular: 10_000, count: 3, interval: { every: 1, unit: 'month' } } }],
  });
  it('lists no later payments, but sums them up', () => {
    const stored = storedQuote(quote(plan));
    expect(stored).not.toHaveProperty('later');
    expect(stored).toMatchObject({ version: QUOTE_VERSION, dueLater: 6667, plans: [{ lineId: 'main' }] });
    expect(readQuote(JSON.parse(JSON.stringify(stored)))).toEqual(stored);
  });
  it('of the first version is brought up to the same', () => {
    const { plans: _plans, ...first } = quote(plan);
    expect(readQuote(JSON.parse(JSON.stringify(first)))).toEqual(storedQuote(quote(plan)));
  });
  it.each([[{}], [{ version: 99 }], [null]])('%j is refused', (stored) => expect(() => readQuote(stored)).toThrow());
});
