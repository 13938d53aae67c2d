import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { currentPrice, type Price, struckBeside, withHistory, withoutHistory } from '../src/catalog';

const DAY = 24 * 60 * 60 * 1000;
const START = Date.UTC(2026, 0, 1);
const day = (count: number) => START + count * DAY;
type OneTime = Extract<Price, { kind: 'one-time' }>;
const price = (regular: number, sale?: OneTime['sale']): OneTime => ({ kind: 'one-time', regular, ...(sale ? { sale } : {}) });

/** A price as it was saved, day by day. */
const saved = (...changes: Array<[at: number, price: OneTime]>): OneTime =>
  changes.reduce<OneTime | undefined>((before, [at, next]) => withHistory(next, before, day(at), day(at)), undefined) as OneTime;
const struck = (of: OneTime, at: number, unit = currentPrice(of, day(at)).current) => struckBeside(of, unit, day(at));

describe('a struck price', () => {
  it('is the regular price, if that was asked in the 30 days before the sale', () => {
    expect(struck(saved([0, price(1800)], [40, price(1800, { amount: 1400 })]), 40)).toBe(1800);
    // A sale that was set long before, with its days.
    expect(struck(saved([0, price(1800, { amount: 1400, from: day(50), until: day(60) })]), 55)).toBe(1800);
    expect(struck(saved([0, price(1800, { amount: 1400, from: day(50), until: day(60) })]), 49)).toBeNull();
    expect(struck(saved([0, price(1800, { amount: 1400, from: day(50), until: day(60) })]), 60)).toBeNull();
  });

  it('is the lowest price of those days, however high the regular one was put since', () => {
    // 16.00 until day 30; on day 40 24.00 is crossed out nowhere: 16.00 was the lowest of days 10 to 40.
    expect(struck(saved([0, price(1600)], [30, price(2400)], [40, price(2400, { amount: 1500 })]), 40)).toBe(1600);
    // What is asked is no less than what was paid, so that nothing is reduced.
    expect(struck(saved([0, price(1600)], [30, price(2400)], [40, price(2400, { amount: 1600 })]), 40)).toBeNull();
    // More than 30 days later the 16.00 counts no more.
    expect(struck(saved([0, price(1600)], [30, price(2400)], [61, price(2400, { amount: 1600 })]), 61)).toBe(2400);
  });

  it('counts an earlier sale within the 30 days, and not one before them', () => {
    const twice = saved([0, price(1800, { amount: 1200, from: day(5), until: day(10) })], [20, price(1800, { amount: 1400 })]);
    expect(struck(twice, 20)).toBeNull();
    const later = saved([0, price(1800, { amount: 1200, from: day(5), until: day(10) })], [41, price(1800, { amount: 1400 })]);
    expect(struck(later, 41)).toBe(1800);
  });

  it('stays what it was before a sale that only falls, and is another one once the sale rises', () => {
    const falling = saved([0, price(1800)], [40, price(1800, { amount: 1400 })], [60, price(1800, { amount: 1200 })]);
    expect(struck(falling, 100)).toBe(1800);
    const rising = saved([0, price(1800)], [40, price(1800, { amount: 1200 })], [60, price(1800, { amount: 1400 })]);
    expect(struck(rising, 60)).toBeNull();
  });

  it('is never more than the regular price, and of an offer never more than what everybody else pays', () => {
    expect(struck(saved([0, price(2000)], [40, price(1800, { amount: 1400 })]), 40)).toBe(1800);
    const onSale = saved([0, price(1800)], [40, price(1800, { amount: 1400 })]);
    expect(struck(onSale, 45, 1200)).toBe(1400);
    expect(struck(saved([0, price(1800)]), 45, 1500)).toBe(1800);
    // Off the same 18.00 just after a sale at 14.00, 15.00 is no reduction.
    expect(struck(saved([0, price(1800, { amount: 1400, from: day(5), until: day(10) })]), 15, 1500)).toBeNull();
  });

  it('of a price whose past nobody knows is the regular one', () => {
    expect(struckBeside(price(1800, { amount: 1400 }), 1400, day(0))).toBe(1800);
    expect(struckBeside(price(1800, { amount: 1400 }), 1200, day(0))).toBe(1400);
  });

  it('is never below what is asked, nor above any price that was asked in the 30 days before a new sale', () => {
    const amounts = fc.integer({ min: 500, max: 3000 });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.integer({ min: 1, max: 20 }), amounts), { minLength: 1, maxLength: 8 }), amounts, (steps, sale) => {
        let at = 0;
        const changes = steps.map(([after, regular]): [number, OneTime] => {
          at += after;
          return [at, price(regular)];
        });
        const last = changes.at(-1)?.[1].regular ?? 0;
        fc.pre(sale < last);
        const begun = at + 3;
        const found = struck(saved(...changes, [begun, price(last, { amount: sale })]), begun);
        // What was asked on a day: the last change before it.
        const asked = Array.from({ length: 30 }, (_, back) => changes.filter(([when]) => when <= begun - 1 - back).at(-1)?.[1].regular).filter(
          (amount) => amount !== undefined,
        );
        const lowest = Math.min(...asked, last);
        expect(found).toBe(lowest > sale ? lowest : null);
      }),
    );
  });
});

describe('a price that is saved', () => {
  it('keeps what it was, whatever is sent, and only where it has changed', () => {
    const first = saved([0, price(1800)]);
    expect(first.history).toEqual({ since: day(0), past: [] });
    expect(withHistory({ ...price(1800), history: { since: 0, past: [{ from: 0, until: 1, amount: 9900, onSale: false }] } }, first, day(0), day(5))).toEqual(
      first,
    );
    expect(saved([0, price(1800)], [5, price(2000)]).history).toEqual({ since: day(5), past: [{ from: day(0), until: day(5), amount: 1800, onSale: false }] });
    expect(withoutHistory(first)).toEqual(price(1800));
    // A month and a year are no prices of the same thing.
    const monthly: Price = { kind: 'subscription', regular: 900, interval: { every: 1, unit: 'month' }, charges: null };
    const yearly: Price = { ...monthly, regular: 9000, interval: { every: 1, unit: 'year' } };
    expect(withHistory(yearly, monthly, day(0), day(9))).toMatchObject({ history: { since: day(9), past: [] } });
  });
});
