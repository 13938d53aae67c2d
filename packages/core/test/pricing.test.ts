import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DiscountPercentSchema } from '../src/money';
import {
  boughtBy,
  findTaxRow,
  type QuoteInput,
  quote,
  rateOf,
  type ShippingTable,
  shippingCost,
  storedQuote,
  TAX_RATES_EU,
  type TaxTable,
  TaxTableSchema,
  taxRatesEu,
  unionCountries,
} from '../src/pricing';
import { allCountries, COUNTRY_CODES } from '../src/shop';
import { input, line, wheel } from './support/cart';

const NOW = Date.UTC(2026, 5, 1);

describe('the tax table', () => {
  const table: TaxTable = [
    { country: 'EE', union: 'EU', standard: 22, reduced: 9, digital: 9 },
    { country: 'EE', union: 'EU', from: NOW, standard: 24, reduced: 9, digital: 9 },
    { country: 'CA', standard: 5, reduced: 5, digital: 5 },
    { country: 'CA', region: 'QC', standard: 14.975, reduced: 5, digital: 14.975 },
  ];
  it.each([
    // country, region, when, standard rate
    ['EE', undefined, NOW - 1, 22],
    ['EE', undefined, NOW, 24],
    ['CA', undefined, NOW, 5],
    ['CA', 'QC', NOW, 14.975],
    ['CA', 'BC', NOW, 5],
    ['US', undefined, NOW, 0],
  ])('%s %s at %d is %d %%', (country, region, at, rate) => {
    expect(rateOf(findTaxRow(table, country, region, at), 'standard')).toBe(rate);
  });
  it('knows no tax on what is exempt, and a rate of its own for each class', () => {
    const row = findTaxRow(TAX_RATES_EU, 'DE', undefined, NOW);
    expect((['standard', 'reduced', 'digital', 'exempt'] as const).map((taxClass) => rateOf(row, taxClass))).toEqual([19, 7, 7, 0]);
  });
  it('ships with one row for each of the union’s 27 states', () => {
    expect(TaxTableSchema.safeParse(TAX_RATES_EU).success).toBe(true);
    expect(new Set(TAX_RATES_EU.map((row) => row.country)).size).toBe(27);
    // Estonia went from 22 to 24 % on 1 July 2025; for a shop in Tallinn (UTC+3) that day begins at 21:00Z on 30 June.
    const change = Date.UTC(2025, 5, 30, 21);
    expect([change - 1, change].map((at) => rateOf(findTaxRow(taxRatesEu('Europe/Tallinn'), 'EE', undefined, at), 'standard'))).toEqual([22, 24]);
    for (const { country, standard, reduced, digital } of TAX_RATES_EU) {
      expect(COUNTRY_CODES).toContain(country);
      expect(standard).toBeGreaterThanOrEqual(15);
      expect(Math.max(reduced, digital)).toBeLessThanOrEqual(standard);
    }
  });
  it('takes 14.975 % exactly: 100.00 holds 13.02', () => {
    // 10000 × 14.975 ÷ 114.975 = 1302.458 → 1302
    const result = quote({
      shop: { currency: 'CAD', country: 'CA', timeZone: 'America/Toronto', pricesIncludeTax: true },
      taxTable: table,
      shippingTable: [],
      lines: [
        {
          id: 'a',
          productId: 'p',
          name: 'P',
          role: 'main',
          kind: 'digital',
          taxClass: 'standard',
          weight: 0,
          price: { kind: 'one-time', regular: 10_000 },
          quantity: 1,
        },
      ],
      buyer: { country: 'CA', region: 'QC', validTaxNumber: false },
      now: NOW,
    });
    expect(result.tax).toBe(1302);
  });
});

describe('shipping', () => {
  const table: ShippingTable = [
    { name: 'Canaries', countries: ['ES'], region: 'CN', rate: { kind: 'flat', amount: 1200 } },
    {
      name: 'Iberia',
      countries: ['PT', 'ES'],
      rate: {
        kind: 'weight',
        bands: [
          { upTo: 100, amount: 290 },
          { upTo: 500, amount: 490 },
        ],
      },
    },
    {
      name: 'Europe',
      countries: ['DE'],
      rate: {
        kind: 'value',
        bands: [
          { upTo: 2000, amount: 690 },
          { upTo: null, amount: 390 },
        ],
      },
      freeFrom: 10_000,
    },
  ];
  it.each([
    // country, region, grams, value, cost
    ['PT', undefined, 100, 0, 290], // the bound is included
    ['PT', undefined, 101, 0, 490],
    ['PT', undefined, 501, 0, 'too-heavy'], // heavier than every band
    ['ES', 'CN', 501, 0, 1200], // the region before the country
    ['ES', 'MD', 10, 0, 290],
    ['DE', undefined, 0, 1999, 690],
    ['DE', undefined, 0, 2000, 390], // a band by value begins at its lower bound
    ['DE', undefined, 0, 9999, 390],
    ['DE', undefined, 0, 10_000, 0], // equality reaches the threshold
    ['US', undefined, 1, 1, 'no-zone'],
  ])('to %s %s, %d g, value %d costs %s', (country, region, grams, value, cost) => {
    const found = shippingCost(table, { country, region }, grams, value);
    expect(typeof found === 'string' ? found : found.amount).toBe(cost);
  });
});

describe('currencies without cents and with three decimals', () => {
  const of = (currency: string, regular: number): QuoteInput => ({
    shop: { currency, country: 'DE', timeZone: 'Europe/Berlin', pricesIncludeTax: false },
    taxTable: TAX_RATES_EU,
    shippingTable: [],
    lines: [
      { id: 'a', productId: 'p', name: 'P', role: 'main', kind: 'digital', taxClass: 'standard', weight: 0, price: { kind: 'one-time', regular }, quantity: 3 },
    ],
    buyer: { country: 'DE', validTaxNumber: false },
    now: NOW,
  });
  it('round at their own minor unit', () => {
    // 3 × ¥333 = ¥999; 19 % = 189.81 → ¥190
    expect(quote(of('JPY', 333))).toMatchObject({ dueToday: 1189, tax: 190 });
    // 3 × 0.333 = 0.999 dinar; 19 % of 999 fils = 189.81 → 190 fils
    expect(quote(of('KWD', 333))).toMatchObject({ dueToday: 1189, tax: 190 });
  });
  it('give the same figures for the same minor units, whatever the currency', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e9 }), (regular) => {
        expect(quote(of('JPY', regular)).dueToday).toBe(quote(of('EUR', regular)).dueToday);
      }),
    );
  });
});

describe('countries', () => {
  it('have names, each once, in the order of the alphabet', () => {
    const countries = allCountries();
    expect(countries.length).toBeGreaterThan(240);
    expect(new Set(countries.map((country) => country.name)).size).toBe(countries.length);
    expect(countries[0]?.name).toBe('Afghanistan');
    expect(countries.every((country) => country.name !== country.code)).toBe(true);
  });
});

describe('shipping that the table does not have', () => {
  const heavy = (grams: number) => quote(input({ lines: [{ ...wheel, weight: grams }], buyer: { country: 'NL' }, shippingTable: table })).problems;
  const table: QuoteInput['shippingTable'] = [{ name: 'Home', countries: ['NL'], rate: { kind: 'weight', bands: [{ upTo: 500, amount: 290 }] } }];
  it('says of a heavy parcel that it is too heavy, not that nobody sends there', () => {
    expect(heavy(500)).toEqual([]);
    expect(heavy(501)).toEqual([{ path: 'buyer.country', message: expect.stringContaining('too heavy') }]);
    expect(quote(input({ lines: [wheel], buyer: { country: 'PT' }, shippingTable: table })).problems).toEqual([
      { path: 'buyer.country', message: 'We do not send parcels to this country.' },
    ]);
  });
});

describe('a one-click addition to a plan in its free trial', () => {
  it('ships at the trial’s rate, although the trial itself has sent nothing', () => {
    // A magazine of the standard class in its trial, a book of the reduced class added: shipping takes 23 %, not 6 %.
    const plan = { kind: 'subscription' as const, regular: 900, interval: { every: 1, unit: 'month' as const }, trial: { days: 14, price: 0 }, charges: null };
    const first = quote(input({ lines: [line({ kind: 'physical', weight: 100, price: plan })], buyer: { country: 'PT' } }));
    expect(first.shipping).toBeNull();
    const book = line({
      id: 'u',
      productId: 'book',
      role: 'upsell',
      kind: 'physical',
      taxClass: 'reduced',
      weight: 100,
      price: { kind: 'one-time', regular: 2000 },
    });
    const { shipping } = quote(input({ lines: [book], buyer: { country: 'PT' }, bought: boughtBy([storedQuote(first)]) }));
    // 4.90 with 23 % inside: 490 × 23 ÷ 123 = 92
    expect(shipping).toMatchObject({ total: 490, rate: 23, tax: 92, weight: 100 });
  });
});

describe('what must be bought alone', () => {
  it('is not sold beside anything else', () => {
    const plan = line({ id: 'p', name: 'Sky Plan', alone: true });
    expect(quote(input({ lines: [plan] })).problems).toEqual([]);
    expect(quote(input({ lines: [plan, line()] })).problems).toEqual([
      { path: 'lines.0', message: expect.stringContaining('Sky Plan can only be bought alone') },
    ]);
  });
});

describe('the countries of the union', () => {
  it('are named once each, also those whose rates change by the date', () => {
    const dated = TAX_RATES_EU.filter((row) => row.country === 'EE' || row.country === 'FI');
    expect(dated.length).toBeGreaterThan(2);
    const countries = unionCountries(TAX_RATES_EU, 'EU');
    expect(countries).toHaveLength(27);
    expect(new Set(countries).size).toBe(27);
  });
});

describe('percentages with more decimals than are reckoned with', () => {
  it('are refused, not rounded', () => {
    expect(DiscountPercentSchema.safeParse(33.33).success).toBe(true);
    expect(DiscountPercentSchema.safeParse(33.333).error?.issues[0]?.message).toContain('two decimals');
    expect(TaxTableSchema.safeParse([{ country: 'CA', region: 'QC', standard: 9.975, reduced: 0, digital: 9.975 }]).success).toBe(true);
    expect(TaxTableSchema.safeParse([{ country: 'CA', standard: 9.97555, reduced: 0, digital: 0 }]).success).toBe(false);
  });
});

describe('an endless daily plan beside a long one', () => {
  it('lists no more than can be read', () => {
    const daily = line({ id: 'd', price: { kind: 'subscription', regular: 100, interval: { every: 1, unit: 'day' }, charges: null } });
    const long = line({ id: 'l', price: { kind: 'subscription', regular: 100, interval: { every: 5, unit: 'year' }, charges: 600 } });
    const { later } = quote(input({ lines: [daily, long] }));
    const ofDaily = later.filter(({ parts }) => parts.some((part) => part.lineId === 'd'));
    expect(ofDaily).toHaveLength(120);
    expect(later.flatMap(({ parts }) => parts).filter((part) => part.lineId === 'l')).toHaveLength(599);
  });
});
