import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Price, PriceSchema, priceWords } from '../src/catalog';
import { schedule } from '../src/plans';
import { isoDate, planDate, quote, trialEnd } from '../src/pricing';
import { code, exclusive, input, line, NOW } from './support/cart';

const monthly = { every: 1, unit: 'month' as const };
const at = (iso: string) => new Date(iso).getTime();

describe('the dates of later charges', () => {
  const dates = (first: string, zone: string, interval: Parameters<typeof planDate>[1], count: number) =>
    Array.from({ length: count }, (_, index) => isoDate(planDate(at(first), interval, index, zone), zone).slice(0, 16));
  it('keep the day of the month and come back to it after shorter months', () => {
    expect(dates('2026-01-31T10:00:00Z', 'Europe/Lisbon', monthly, 4)).toEqual([
      '2026-01-31T10:00',
      '2026-02-28T10:00',
      '2026-03-31T10:00',
      '2026-04-30T10:00',
    ]);
    expect(dates('2028-01-31T10:00:00Z', 'Europe/Lisbon', monthly, 2)[1]).toBe('2028-02-29T10:00');
  });
  it('come back to 29 February in leap years', () => {
    const yearly = { every: 1, unit: 'year' as const };
    expect(dates('2028-02-29T10:00:00Z', 'Europe/Lisbon', yearly, 5).map((date) => date.slice(0, 10))).toEqual([
      '2028-02-29',
      '2029-02-28',
      '2030-02-28',
      '2031-02-28',
      '2032-02-29',
    ]);
  });
  it('keep the time on the clock when clocks change', () => {
    // Berlin is UTC+1 on 15 March and UTC+2 on 15 April: 09:00 stays 09:00
    expect(dates('2026-03-15T08:00:00Z', 'Europe/Berlin', monthly, 2)).toEqual(['2026-03-15T09:00', '2026-04-15T09:00']);
    expect(planDate(at('2026-03-15T08:00:00Z'), monthly, 1, 'Europe/Berlin')).toBe(at('2026-04-15T07:00:00Z'));
  });
  it('move an hour that is skipped forward, and take the first of one that is repeated', () => {
    // 29 March 2026, 02:30 does not exist in Berlin: 03:30 (UTC+2) = 01:30Z
    expect(planDate(at('2026-03-28T01:30:00Z'), { every: 1, unit: 'day' }, 1, 'Europe/Berlin')).toBe(at('2026-03-29T01:30:00Z'));
    // 25 October 2026, 02:30 comes twice in Berlin: first at UTC+2 = 00:30Z
    expect(planDate(at('2026-10-24T00:30:00Z'), { every: 1, unit: 'day' }, 1, 'Europe/Berlin')).toBe(at('2026-10-25T00:30:00Z'));
    // and 01:30 in Lisbon, first at UTC+1 = 00:30Z
    expect(trialEnd(at('2026-10-18T00:30:00Z'), 7, 'Europe/Lisbon')).toBe(at('2026-10-25T00:30:00Z'));
    // the day after, it is where it belongs again
    expect(planDate(at('2026-03-28T01:30:00Z'), { every: 1, unit: 'day' }, 2, 'Europe/Berlin')).toBe(at('2026-03-30T00:30:00Z'));
  });
  it('count every two weeks and every quarter', () => {
    expect(dates('2026-12-24T18:00:00Z', 'UTC', { every: 2, unit: 'week' }, 3).map((date) => date.slice(0, 10))).toEqual([
      '2026-12-24',
      '2027-01-07',
      '2027-01-21',
    ]);
    expect(dates('2026-11-30T18:00:00Z', 'UTC', { every: 3, unit: 'month' }, 2)[1]?.slice(0, 10)).toBe('2027-02-28');
  });
  it('never go back and keep their day, whatever the start', () => {
    fc.assert(
      fc.property(
        fc.date({ min: new Date('2000-01-01'), max: new Date('2090-01-01'), noInvalidDate: true }),
        fc.constantFrom('Europe/Lisbon', 'America/New_York', 'Australia/Lord_Howe', 'Asia/Kathmandu'),
        (start, zone) => {
          const first = start.getTime();
          const day = Number(isoDate(first, zone).slice(8, 10));
          let before = first;
          for (let index = 1; index <= 14; index++) {
            const date = planDate(first, monthly, index, zone);
            expect(date).toBeGreaterThan(before);
            const [year, month, now] = isoDate(date, zone).slice(0, 10).split('-').map(Number);
            const longest = new Date(Date.UTC(year ?? 0, month ?? 0, 0)).getUTCDate();
            expect(now).toBe(Math.min(day, longest));
            before = date;
          }
        },
      ),
    );
  });
});

describe('what is due today and later', () => {
  it.each<[string, Price, number, number[]]>([
    // 100.00 in three: 33.33, 33.33 and the last absorbs the cent
    ['instalments', { kind: 'instalments', regular: 10_000, count: 3, interval: monthly }, 3333, [3333, 3334]],
    // on sale: 90.00 in four
    ['instalments on sale', { kind: 'instalments', regular: 18_000, sale: { amount: 9000 }, count: 4, interval: monthly }, 2250, [2250, 2250, 2250]],
    ['an endless plan', { kind: 'subscription', regular: 900, interval: monthly, charges: null }, 900, [900, 900, 900]],
    ['a plan of three charges', { kind: 'subscription', regular: 900, interval: monthly, charges: 3 }, 900, [900, 900]],
    // a trial is not one of the three
    [
      'a plan of three after a free trial',
      { kind: 'subscription', regular: 900, interval: monthly, charges: 3, trial: { days: 14, price: 0 } },
      0,
      [900, 900, 900],
    ],
    [
      'a paid trial with a set-up fee',
      { kind: 'subscription', regular: 900, interval: monthly, charges: 1, trial: { days: 14, price: 100 }, setUpFee: 500 },
      600,
      [900],
    ],
    ['one price', { kind: 'one-time', regular: 13_800 }, 13_800, []],
    ['what the buyer chooses, as suggested', { kind: 'pay-what-you-want', minimum: 0, suggested: 800 }, 800, []],
    ['nothing', { kind: 'free' }, 0, []],
  ])('%s', (_name, price, today, later) => {
    const result = quote(input({ lines: [line({ price })] }));
    expect(result.dueToday).toBe(today);
    expect(result.later.map((payment) => payment.total)).toEqual(later);
    const endless = price.kind === 'subscription' && price.charges === null;
    expect(result.dueLater).toBe(endless ? null : later.reduce((sum, amount) => sum + amount, 0));
  });

  it('multiplies period, trial and set-up fee by the quantity, and splits the line of instalments', () => {
    const plan: Price = { kind: 'subscription', regular: 900, interval: monthly, charges: 1, trial: { days: 7, price: 100 }, setUpFee: 500 };
    const two = quote(input({ lines: [line({ price: plan, quantity: 2 })] }));
    expect([two.dueToday, two.dueLater]).toEqual([1200, 1800]);
    // 2 × 100.00 = 200.00 in three: 66.66, 66.66, 66.68
    const three = quote(input({ lines: [line({ price: { kind: 'instalments', regular: 10_000, count: 3, interval: monthly }, quantity: 2 })] }));
    expect([three.dueToday, ...three.later.map((payment) => payment.total)]).toEqual([6666, 6666, 6668]);
  });

  it('cuts all instalments together, or each period, by an offer’s own discount, never fee or trial', () => {
    const discount = { kind: 'percent' as const, percent: 10, base: 'regular' as const };
    // 100.00 − 10 % = 90.00: 30.00 each
    expect(quote(input({ lines: [line({ price: { kind: 'instalments', regular: 10_000, count: 3, interval: monthly }, discount })] })).dueToday).toBe(3000);
    const plan: Price = { kind: 'subscription', regular: 900, interval: monthly, charges: 1, trial: { days: 7, price: 100 }, setUpFee: 500 };
    const result = quote(input({ lines: [line({ price: plan, discount })] }));
    expect([result.dueToday, result.dueLater]).toEqual([600, 810]);
  });

  it('taxes each charge by itself, on top where prices exclude it', () => {
    // 33.33 × 21 % = 6.9993 → 7.00; 33.34 × 21 % = 7.0014 → 7.00
    const result = quote(input({ shop: exclusive, lines: [line({ price: { kind: 'instalments', regular: 10_000, count: 3, interval: monthly } })] }));
    expect([result.dueToday, ...result.later.map((payment) => payment.total)]).toEqual([4033, 4033, 4034]);
  });

  it('takes a rate that changes from its day on, for periods; instalments keep the day of purchase', () => {
    const taxTable = [
      { country: 'EE', union: 'EU', standard: 20, reduced: 9, digital: 9, until: NOW + 86_400_000 },
      { country: 'EE', union: 'EU', standard: 24, reduced: 9, digital: 9, from: NOW + 86_400_000 },
    ];
    const of = (price: Price) => quote(input({ shop: exclusive, taxTable, buyer: { country: 'EE' }, lines: [line({ price })] }));
    const plan = of({ kind: 'subscription', regular: 1000, interval: monthly, charges: 2 });
    expect([plan.dueToday, plan.dueLater]).toEqual([1200, 1240]);
    const instalments = of({ kind: 'instalments', regular: 2000, count: 2, interval: monthly });
    expect([instalments.dueToday, instalments.dueLater]).toEqual([1200, 1200]);
  });

  it('ships a physical subscription with every charge, at the rate of its parcel', () => {
    const box = line({
      kind: 'physical',
      weight: 200,
      price: { kind: 'subscription', regular: 1500, interval: monthly, charges: 2, trial: { days: 10, price: 0 } },
    });
    const result = quote(input({ lines: [box] }));
    // Nothing is charged in the free trial, so nothing is sent.
    expect(result).toMatchObject({ dueToday: 0, shipping: null });
    expect(result.later.map((payment) => [payment.shipping?.total, payment.total])).toEqual([
      [490, 1990],
      [490, 1990],
    ]);
  });

  it('lists an endless plan as long as asked, and beyond an ending one beside it', () => {
    const price: Price = { kind: 'subscription', regular: 900, interval: monthly, charges: null };
    expect(schedule({ ...input({ lines: [line({ price })] }), next: 24 }).payments).toHaveLength(24);
    const both = [line({ price }), line({ id: 'b', price: { kind: 'instalments', regular: 18_000, count: 6, interval: monthly } })];
    const { payments, endless, dueLater } = schedule({ ...input({ lines: both }), next: 2 });
    expect(payments.map((payment) => payment.parts.length)).toEqual([2, 2, 2, 2, 2]);
    expect([endless, dueLater]).toEqual([true, null]);
  });

  it('adds up to the line, for any amount, number and code', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 60, max: 10_000_000 }),
        fc.integer({ min: 2, max: 60 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 100 }),
        (regular, count, quantity, percent) => {
          const lines = [line({ price: { kind: 'instalments', regular, count, interval: monthly }, quantity })];
          const plain = quote(input({ lines }));
          expect(plain.total).toBe(regular * quantity);
          const cut = quote(input({ lines, code: code({ percent }, { payments: 'every' }) }));
          for (const total of [cut.dueToday, ...cut.later.map((payment) => payment.total)]) expect(total).toBeGreaterThanOrEqual(0);
          expect(cut.total).toBeLessThanOrEqual(plain.total ?? 0);
        },
      ),
    );
  });
});

describe('a price’s own terms', () => {
  it.each<[object, string]>([
    [{ kind: 'one-time', regular: 0 }, 'above zero'],
    [{ kind: 'one-time', regular: 100, sale: { amount: 100 } }, 'below the regular'],
    [{ kind: 'one-time', regular: 100, sale: { amount: 50, from: 2, until: 2 } }, 'end after it starts'],
    [{ kind: 'instalments', regular: 100, count: 1, interval: monthly }, 'at least 2'],
    [{ kind: 'instalments', regular: 3, count: 4, interval: monthly }, 'above zero'],
    [{ kind: 'subscription', regular: 100, interval: monthly, trial: { days: 366 } }, 'at most 365'],
    [{ kind: 'subscription', regular: 100, interval: { every: 61, unit: 'month' } }, 'under 5 years'],
    [{ kind: 'subscription', regular: 100, interval: monthly, charges: 0 }, 'at least one'],
    [{ kind: 'pay-what-you-want', minimum: 500, suggested: 400 }, 'under the minimum'],
    [{ kind: 'pay-what-you-want', minimum: 0, suggested: 400, maximum: 300 }, 'under the suggested'],
    [{ kind: 'one-time', regular: -1 }, 'negative'],
    [{ kind: 'one-time', regular: 10.5 }, 'whole number'],
    [{ kind: 'one-time', regular: 1e15 }, 'too large'],
  ])('%j is refused', (price, message) => {
    expect(
      PriceSchema.safeParse(price)
        .error?.issues.map((issue) => issue.message)
        .join(),
    ).toContain(message);
  });
  it('refuses an amount outside what a buyer may choose', () => {
    const price: Price = { kind: 'pay-what-you-want', minimum: 300, suggested: 800, maximum: 5000 };
    const problems = (chosen: number) => quote(input({ lines: [line({ price, chosen })] })).problems.map((problem) => problem.path);
    expect([299, 300, 5000, 5001].map((chosen) => problems(chosen).length)).toEqual([1, 0, 0, 1]);
    expect(problems(0)).toEqual(['lines.0.chosen']);
  });
  it.each<[Price, string]>([
    [{ kind: 'one-time', regular: 13_800 }, '€138'],
    [{ kind: 'instalments', regular: 18_000, count: 4, interval: monthly }, '4 × €45 a month'],
    [{ kind: 'instalments', regular: 10_000, count: 3, interval: { every: 2, unit: 'week' } }, '3 × €33.33 every 2 weeks, the last €33.34'],
    [{ kind: 'subscription', regular: 900, interval: monthly, charges: null, trial: { days: 14, price: 0 } }, '€9 a month, 14 days free'],
    [
      { kind: 'subscription', regular: 900, interval: monthly, charges: 6, trial: { days: 1, price: 100 }, setUpFee: 500 },
      '€9 a month, 6 times, 1 day for €1, set-up €5',
    ],
    [{ kind: 'pay-what-you-want', minimum: 300, suggested: 800 }, 'from €3, you choose'],
    [{ kind: 'free' }, 'Free'],
  ])('%j reads “%s”', (price, words) => {
    expect(priceWords(price, 'EUR', NOW)).toBe(words);
  });
});
