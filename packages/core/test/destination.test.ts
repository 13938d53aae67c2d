import { describe, expect, it } from 'vitest';
import { boughtBy, checkTaxNumber, type QuoteInput, quote, TAX_RATES_EU, TaxTableSchema, taxTableProblems } from '../src/pricing';
import { code, exclusive, input, line, NOW, wheel } from './support/cart';

describe('reverse charge', () => {
  // Numbers by their own check digits: NL 001234567B01, PT 500000018. 138.00 with 21 % of NL inside leaves 114.05.
  it.each<[string, object, boolean]>([
    ['of another country of the union', { country: 'NL', taxNumber: 'PL5260001246' }, true],
    ['of the shop’s own country', { country: 'NL', taxNumber: 'PT500000018' }, false],
    ['found right elsewhere, of the shop’s own country', { country: 'NL', taxNumber: 'PT 500000018', validTaxNumber: true }, false],
    ['found right elsewhere, of no country of the union', { country: 'NL', taxNumber: 'GB 123 4567 82', validTaxNumber: true }, false],
    ['found right elsewhere, with the letters Greece writes', { country: 'NL', taxNumber: 'EL094259216', validTaxNumber: true }, true],
    ['of the union while the goods leave it', { country: 'US', taxNumber: 'PL5260001246' }, false],
    ['of another country while the goods stay at home', { country: 'PT', taxNumber: 'PL5260001246' }, false],
    ['found right elsewhere, while they stay at home', { country: 'PT', taxNumber: 'PL5260001246', validTaxNumber: true }, false],
  ])('with a number %s', (_words, buyer, granted) => {
    expect(quote(input({ buyer: { country: 'NL', ...buyer } })).reverseCharge).toBe(granted);
  });
});

describe('business tax numbers', () => {
  // Made-up numbers whose check digits were worked by the published rules of each state.
  it.each([
    // PT: 5×9 + 0×8 + 0×7 + 0×6 + 0×5 + 0×4 + 0×3 + 1×2 = 47; 47 mod 11 = 3; 11 − 3 = 8
    ['PT 500 000 018', 'PT'],
    // BE: 97 − (01234567 mod 97 = 48) = 49
    ['BE0123456749', 'BE'],
    // LU: 123456 mod 89 = 13
    ['LU12345613', 'LU'],
    // DK: 2×1 + 7×3 + 6×5 + 5×8 + 4×5 + 3×6 + 2×2 + 1×8 = 143 = 13 × 11
    ['DK-13585628', 'DK'],
    // HU: 9×1 + 7×2 + 3×3 + 1×4 + 9×5 + 7×6 + 3×7 = 144; 10 − 4 = 6
    ['HU12345676', 'HU'],
    // GR: 256×1 + 128×2 + 64×3 + 32×4 + 16×5 + 8×6 + 4×7 + 2×8 = 1004; mod 11 = 3
    ['EL123456783', 'GR'],
    // PL: 6×1 + 5×2 + 7×3 + 2×4 + 3×5 + 4×6 + 5×7 + 6×8 + 7×5 = 202; mod 11 = 4
    ['pl 123.456.785.4', 'PL'],
  ])('%s is right', (text, country) => {
    expect(checkTaxNumber(text)).toMatchObject({ ok: true, country });
  });
  it.each([
    ['PT500000017', 'check digits'],
    ['PT50000001', 'too short'],
    ['500000018', 'two letters'],
    ['US123456789', 'not of a country of the European Union'],
    ['', 'two letters'],
  ])('“%s” is refused: %s', (text, message) => {
    expect(checkTaxNumber(text)).toMatchObject({ ok: false, message: expect.stringContaining(message) });
  });
});

describe('reverse charge', () => {
  const business = (changes: Partial<QuoteInput>) => quote(input({ buyer: { country: 'LU', taxNumber: 'LU12345613' }, ...changes }));
  it('needs a right number of another country of the union, and goods that stay in it', () => {
    const of = (buyer: QuoteInput['buyer']) => business({ buyer }).reverseCharge;
    expect(of({ country: 'LU', taxNumber: 'LU12345613' })).toBe(true);
    expect(of({ country: 'LU', taxNumber: 'LU12345614' })).toBe(false);
    // the number's own country counts, wherever in the union the bill goes
    expect(of({ country: 'NL', taxNumber: 'LU12345613' })).toBe(true);
    expect(of({ country: 'PT', taxNumber: 'PT500000018' })).toBe(false);
    expect(of({ country: 'NO', taxNumber: 'LU12345613' })).toBe(false);
    expect(business({ buyer: { country: 'LU', taxNumber: 'LU12345614' } }).taxNumber).toMatchObject({
      valid: false,
      message: expect.stringContaining('check digits'),
    });
  });
  it('meets shipping: the destination’s rate is taken out of both', () => {
    // To Germany, 19 %: 24.00 holds 2400 × 19 ÷ 119 = 383.19; post 4.90 holds 78.24. 24.00 − 3.83 + 4.90 − 0.78 = 24.29
    const result = quote(input({ lines: [wheel], buyer: { country: 'DE', validTaxNumber: true } }));
    expect(result).toMatchObject({ reverseCharge: true, tax: 0, dueToday: 2429, shipping: { rate: 0, net: 412, total: 412 } });
  });
  it('meets a code, and prices without tax', () => {
    // 138.00 − 13.80 = 124.20 holds 12420 × 17 ÷ 117 = 1804.62 → 106.15 is left
    expect(business({ code: code({ percent: 10 }) })).toMatchObject({ tax: 0, dueToday: 10_615 });
    expect(business({ shop: exclusive, code: code({ percent: 10 }) })).toMatchObject({ tax: 0, dueToday: 12_420 });
  });
});

describe('where tax is owed', () => {
  it('is the shipping address if anything is sent, else the billing address', () => {
    const buyer = { country: 'NL', shipTo: { country: 'DE' } };
    expect(quote(input({ lines: [line(), wheel], buyer })).lines.map((each) => each.rate)).toEqual([19, 19]);
    expect(quote(input({ lines: [line()], buyer })).lines.map((each) => each.rate)).toEqual([21]);
  });
  it('taxes shipping at the highest rate of what is sent, not of the download beside it', () => {
    // NL: book 9 %, course 21 %; post 4.90 × 9 ÷ 109 = 40.46
    const book = { ...wheel, taxClass: 'reduced' as const };
    expect(quote(input({ lines: [line({ price: { kind: 'one-time', regular: 100 } }), book] })).shipping).toMatchObject({ rate: 9, tax: 40 });
    const both = quote(input({ lines: [book, { ...wheel, id: 'c' }] }));
    expect(both.shipping?.rate).toBe(21);
  });
  it('splits a bundle over tax classes by its parts’ regular prices, shipping by what is sent', () => {
    // 100.00 for a course of 138.00 (21 %), and two books of 12.00 (9 %): 138 : 24
    // 10000 × 13800 ÷ 16200 = 8518.52 → 8519 (the larger remainder), 1481
    const part = { name: '', taxClass: 'standard' as const, weight: 0, quantity: 1 };
    const bundle = line({
      price: { kind: 'one-time', regular: 10_000 },
      parts: [
        { ...part, productId: 'course', kind: 'digital', regular: 13_800 },
        { ...part, productId: 'book', kind: 'physical', taxClass: 'reduced', regular: 1200, weight: 150, quantity: 2 },
      ],
    });
    const result = quote(input({ lines: [bundle] }));
    expect(result.lines[0]?.taxShares.map(({ taxClass, base, tax }) => [taxClass, base, tax])).toEqual([
      // 8519 × 21 ÷ 121 = 1478.50 → 1479; 1481 × 9 ÷ 109 = 122.28
      ['standard', 8519, 1479],
      ['reduced', 1481, 122],
    ]);
    expect(result.lines[0]).toMatchObject({ tax: 1601, total: 10_000, net: 8399 });
    // 300 g, but free from 100.00
    expect(result.shipping).toMatchObject({ weight: 300, total: 0, rate: 9 });
  });
});

describe('a one-click addition', () => {
  const upsell = { ...wheel, id: 'u', role: 'upsell' as const };
  it('pays the difference of shipping for the whole order, never under 0', () => {
    const first = quote(input({ lines: [{ ...wheel, role: 'main' }] }));
    // 120 g paid 4.90; 240 g still 4.90; 360 g 8.90, so 4.00 more; tax 400 × 21 ÷ 121 = 69.42
    const second = quote(input({ lines: [upsell], bought: boughtBy([first]) }));
    expect(second.shipping).toMatchObject({ weight: 240, listed: 490, paidBefore: 490, total: 0 });
    const third = quote(input({ lines: [upsell], bought: boughtBy([first, second]) }));
    expect(third.shipping).toMatchObject({ weight: 360, listed: 890, paidBefore: 490, total: 400, tax: 69 });
    // What makes the order free of post gives nothing back.
    const dear = quote(input({ lines: [{ ...upsell, price: { kind: 'one-time', regular: 20_000 } }], bought: boughtBy([first]) }));
    expect(dear.shipping).toMatchObject({ listed: 0, total: 0 });
    expect(dear.dueToday).toBe(20_000);
  });
  it('counts instalments whole, leaves a set-up fee out of a code’s minimum, and sends nothing for what has not been sent', () => {
    const interval = { every: 1, unit: 'month' as const };
    const plan = line({ price: { kind: 'instalments', regular: 12_000, count: 3, interval } });
    // 120.00 + 24.00 reaches the 100.00 from which post is free
    expect(quote(input({ lines: [upsell], bought: boughtBy([quote(input({ lines: [plan] }))]) })).shipping).toMatchObject({ value: 14_400, total: 0 });
    const box = line({
      kind: 'physical',
      weight: 200,
      price: { kind: 'subscription', regular: 900, interval, charges: null, setUpFee: 5000, trial: { days: 7, price: 0 } },
    });
    const bought = boughtBy([quote(input({ lines: [box] }))]);
    const extra = line({ id: 'x', role: 'upsell', price: { kind: 'one-time', regular: 1000 } });
    // 9.00 of the plan and 10.00: the fee of 50.00 does not bring it to 20.00
    const added = quote(input({ lines: [extra], bought, code: code({ percent: 10 }, { minimum: 2000 }) }));
    expect(added).toMatchObject({ shipping: null, code: { applied: false }, dueToday: 1000 });
  });
  it('pays the whole shipping if nothing was sent before', () => {
    const first = quote(input());
    expect(
      quote(input({ lines: [upsell], bought: boughtBy([first]), shippingTable: [{ name: 'World', countries: ['NL'], rate: { kind: 'flat', amount: 700 } }] }))
        .dueToday,
    ).toBe(3100);
  });
});

describe('a tax table’s own terms', () => {
  const row = { country: 'EE', union: 'EU', standard: 22, reduced: 9, digital: 9 };
  it.each([
    [[row, { ...row, standard: 24 }], 'from', 'begin at the same time'],
    [
      [
        { ...row, until: NOW },
        { ...row, from: NOW + 1 },
      ],
      'from',
      'no rate holds',
    ],
    [
      [
        { ...row, until: NOW + 1 },
        { ...row, from: NOW },
      ],
      'from',
      'before the one before it ends',
    ],
  ])('%j is refused', (table, field, message) => {
    expect(taxTableProblems(table)).toMatchObject([{ row: 1, field, message: expect.stringContaining(message) }]);
    expect(TaxTableSchema.safeParse(table).success).toBe(false);
  });
  it('lets rows follow each other, and regions stand beside their country', () => {
    expect(
      taxTableProblems([{ ...row, until: NOW }, { ...row, from: NOW }, { ...row, region: 'A' }, ...TAX_RATES_EU.filter((each) => each.country !== 'EE')]),
    ).toEqual([]);
    expect(taxTableProblems([row, { ...row, from: NOW }])).toEqual([]);
  });
  it('refuses a rate over 100, below 0, and an end before the start', () => {
    for (const changes of [{ standard: 101 }, { reduced: -1 }, { from: 2, until: 1 }])
      expect(TaxTableSchema.safeParse([{ ...row, ...changes }]).success).toBe(false);
  });
});
