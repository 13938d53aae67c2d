import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attribute, MODEL_NAMES, type Touch, touchesOf } from '../src/reports';
import { guessMapping, readCost, readDay, readSpend } from '../src/spend';

const DAY = 24 * 60 * 60 * 1000;

describe('a day in a file', () => {
  it.each([
    ['2026-03-31', 'ymd', '2026-03-31'],
    ['2026/3/31', 'dmy', '2026-03-31'],
    ['20260331', 'ymd', '2026-03-31'],
    ['31.03.2026', 'dmy', '2026-03-31'],
    ['31/3/2026 00:00', 'dmy', '2026-03-31'],
    ['03/31/2026', 'mdy', '2026-03-31'],
    ['03/31/2026', 'dmy', undefined],
    ['30.02.2026', 'dmy', undefined],
    ['31.03.26', 'dmy', undefined],
    ['Total', 'ymd', undefined],
  ] as const)('“%s” as %s is %s', (text, order, day) => {
    expect(readDay(text, order)).toBe(day);
  });
});

describe('a cost in a file', () => {
  it.each([
    ['82.27', '.', 'EUR', 8227],
    ['82,27', ',', 'EUR', 8227],
    ['€ 1.234,5', ',', 'EUR', 123_450],
    ['1,234.50 EUR', '.', 'EUR', 123_450],
    ['1 234,50', ',', 'EUR', 123_450],
    // Four decimals are rounded half away from zero at the minor unit.
    ['12.3450', '.', 'EUR', 1235],
    ['12.3449', '.', 'EUR', 1234],
    ['1,234', '.', 'JPY', 1234],
    ['–', '.', 'EUR', 0],
    ['', '.', 'EUR', 0],
  ] as const)('“%s” with “%s” in %s is %d', (text, decimal, currency, amount) => {
    expect(readCost(text, decimal, currency)).toEqual({ amount });
  });
  it.each([
    ['$12.00', '.', 'This is in $'],
    ['12.00 USD', '.', 'This is in USD'],
    ['12,34,56', '.', 'is no amount'],
    ['1.234.50', '.', 'is no amount'],
    ['-3.00', '.', 'cannot be negative'],
    ['=1+1', '.', 'is no amount'],
  ] as const)('“%s” is refused in words', (text, decimal, words) => {
    expect(readCost(text, decimal, 'EUR')).toMatchObject({ message: expect.stringContaining(words) });
  });
});

const CONTINENTAL = [
  'Reporting day;Campaign name;Link clicks;Amount spent;Currency',
  '29.07.2026;long-nights;122;1.082,27;EUR',
  '29.07.2026;long-nights;3;0,23;EUR',
  '30.07.2026;long-nights;90;71,00;EUR',
  'Total;;;1.153,50;EUR',
].join('\r\n');

describe('a file of ad spend', () => {
  it('is understood by its columns, days and decimals; lines of one day are added up, totals left out', () => {
    const { mapping, isAmbiguous } = guessMapping(CONTINENTAL);
    expect(mapping).toMatchObject({
      day: 'reporting day',
      campaign: 'campaign name',
      cost: 'amount spent',
      clicks: 'link clicks',
      currency: 'currency',
      dateOrder: 'dmy',
      decimal: ',',
    });
    expect(isAmbiguous).toBe(false);
    expect(readSpend(CONTINENTAL, { ...mapping, fixedSource: 'skylark' }, 'EUR')).toEqual({
      rows: [
        { day: '2026-07-29', source: 'skylark', campaign: 'long-nights', cost: 108_250, clicks: 125 },
        { day: '2026-07-30', source: 'skylark', campaign: 'long-nights', cost: 7100, clicks: 90 },
      ],
      skipped: 1,
      problems: [],
    });
  });
  it('says where days could be read in two ways, and what each line lacks', () => {
    const american = 'date,utm_source,utm_campaign,cost\n03/04/2026,skylark,a,"1,082.27"\n03/05/2026,skylark,a,5';
    expect(guessMapping(american)).toMatchObject({ isAmbiguous: true, mapping: { source: 'utm_source', decimal: '.' } });
    const { mapping } = guessMapping(CONTINENTAL);
    const wrong = readSpend(
      CONTINENTAL.replace('71,00;EUR', '71,00;USD').replace('0,23', 'a few').replace('29.07.2026;long-nights;122', '29.13.2026;long-nights;122'),
      mapping,
      'EUR',
    );
    expect(wrong.problems.map(({ line, message }) => [line, message.slice(0, 30)])).toEqual([
      [2, '“29.13.2026” is no day as day,'],
      [3, '“a few” is no amount with a co'],
      [4, 'This line is in USD, and the s'],
    ]);
    expect(guessMapping('a;b\n1;2').mapping).toMatchObject({ day: '', campaign: '', cost: '' });
  });
});

describe('what is owed to campaigns', () => {
  const soldAt = 100 * DAY;
  const touches: Touch[] = [
    { at: soldAt - 14 * DAY, campaign: 'ad' },
    { at: soldAt - 7 * DAY, campaign: 'radio' },
    { at: soldAt - 7 * DAY, campaign: 'friend' },
    { at: soldAt, campaign: 'letter' },
  ];
  it.each([
    ['first', { ad: 10_000 }],
    ['last', { letter: 10_000 }],
    ['linear', { ad: 2500, radio: 2500, friend: 2500, letter: 2500 }],
    ['position', { ad: 4000, radio: 1000, friend: 1000, letter: 4000 }],
    // Weights ¼, ½, ½, 1 of 2¼: 1111.1, 2222.2, 2222.2, 4444.4; the cent that is left goes to the largest remainder.
    ['decay', { ad: 1111, radio: 2222, friend: 2222, letter: 4445 }],
  ] as const)('by %s, by hand', (model, owed) => {
    const found = Object.fromEntries([...attribute(model, touches, 10_000, soldAt)].filter(([, part]) => part > 0));
    expect(found).toEqual(owed);
  });
  it('of two visits is half and half by position, and without any all of it nobody’s', () => {
    expect([...attribute('position', touches.slice(0, 2), 101, soldAt)]).toEqual([
      ['ad', 51],
      ['radio', 50],
    ]);
    expect([...attribute('linear', [], 500, soldAt)]).toEqual([['', 500]]);
  });
  it('adds up to the sale to the minor unit, by every model', () => {
    const touch = fc.record({ at: fc.integer({ min: 0, max: soldAt }), campaign: fc.constantFrom('', 'a', 'b', 'c') });
    fc.assert(
      fc.property(fc.array(touch, { maxLength: 12 }), fc.integer({ min: 0, max: 1e8 }), fc.constantFrom(...MODEL_NAMES), (visits, amount, model) => {
        const parts = [...attribute(model, touchesOf(visits), amount, soldAt).values()];
        expect(parts.reduce((sum, part) => sum + part, 0)).toBe(amount);
        expect(parts.every((part) => part >= 0)).toBe(true);
      }),
    );
  });
  it('knows visits in a row by the same campaign as one, and direct ones only where there is no other', () => {
    const visits = ['ad', 'ad', '', 'letter', 'ad'].map((campaign, at) => ({ at, campaign }));
    expect(touchesOf(visits).map(({ campaign }) => campaign)).toEqual(['ad', 'letter', 'ad']);
    expect(
      touchesOf([
        { at: 2, campaign: '' },
        { at: 1, campaign: '' },
      ]),
    ).toEqual([{ at: 1, campaign: '' }]);
  });
});
