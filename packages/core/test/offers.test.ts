import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { oneEdition, type Price, type Product } from '../src/catalog';
import { type Step, setOwnPrice } from '../src/funnel';
import { endsAt, isOfferedTo, isWhole, OfferSchema, offerAt, offeredBy, offerLine, offerOption, offerPrice } from '../src/offers';
import { boughtBy, mergedQuote, quote, storedQuote } from '../src/pricing';
import { input, line, NOW, wheel } from './support/cart';

const newId = (() => {
  let made = 0;
  return (kind: string) => `${kind}_${String(++made).padStart(6, '0')}`;
})();
const product = (...prices: Price[]) =>
  ({
    id: 'prd_wheel00',
    name: 'Wheel',
    kind: 'physical',
    taxClass: 'standard',
    bundle: [],
    buyAgain: true,
    editions: oneEdition(newId, prices),
  }) as unknown as Product;
const offer = (changes: Record<string, unknown> = {}) => OfferSchema.parse({ id: 'off_000001', productId: 'prd_wheel00', ...changes });
const sale = { amount: 1_900 };
const onSale = product({ kind: 'one-time', regular: 2_400, sale });

describe('what an offer costs', () => {
  it.each([
    // 24.00 − 10 % = 21.60 is dearer than the sale price of 19.00, which is charged
    [
      { kind: 'percent', percent: 10, base: 'regular' },
      { unit: 1_900, dearer: true },
    ],
    // 24.00 − 25 % = 18.00
    [
      { kind: 'percent', percent: 25, base: 'regular' },
      { unit: 1_800, dearer: false },
    ],
    // 19.00 − 10 % = 17.10
    [
      { kind: 'percent', percent: 10, base: 'current' },
      { unit: 1_710, dearer: false },
    ],
    [
      { kind: 'amount', amount: 600, base: 'regular' },
      { unit: 1_800, dearer: false },
    ],
    // never under nothing
    [
      { kind: 'amount', amount: 9_900, base: 'current' },
      { unit: 0, dearer: false },
    ],
    [null, { unit: 1_900, dearer: false }],
  ])('%o', (discount, expected) => {
    expect(offerPrice(offer({ discount }), onSale, NOW)).toMatchObject({ regular: 2_400, current: 1_900, ...expected });
  });

  it('is a price of its own, dearer too, whatever the catalog says, and nothing is struck through beside it', () => {
    expect(offerPrice(offer({ ownPrice: 2_900 }), onSale, NOW)).toEqual({ regular: 2_900, current: 2_900, unit: 2_900, struck: null, dearer: false });
    // 29.00 − 10 % = 26.10
    const discount = { kind: 'percent', percent: 10, base: 'current' };
    expect(offerPrice(offer({ ownPrice: 2_900, discount }), onSale, NOW)).toMatchObject({ unit: 2_610, struck: null });
    const [charged] = quote(
      input({ lines: [offerLine(offer({ ownPrice: 2_900, quantity: 2 }), onSale, 'upsell', () => undefined)], buyer: { country: 'PT' } }),
    ).lines;
    expect(charged?.amount).toBe(5_800);
    // After its deadline it is the catalog’s price again.
    const ended = offerAt(offer({ ownPrice: 2_900, deadline: { until: { kind: 'date', at: NOW }, afterwards: 'full-price' } }), null, NOW);
    expect(ended && offerPrice(ended, onSale, NOW).unit).toBe(1_900);
  });

  it('is no price of its own where the buyer chooses among several, or names the amount', () => {
    const several = product({ kind: 'one-time', regular: 2_400 }, { kind: 'one-time', regular: 4_800 });
    const [, second] = several.editions[0]?.prices ?? [];
    expect(offerPrice(offer({ ownPrice: 9_900 }), several, NOW).unit).toBe(2_400);
    expect(offerPrice({ ...offer({ ownPrice: 9_900 }), priceId: second?.id ?? null }, several, NOW).unit).toBe(9_900);
    expect(offerPrice(offer({ ownPrice: 9_900 }), product({ kind: 'pay-what-you-want', minimum: 100, suggested: 500 }), NOW).unit).toBe(500);
    // One period of a plan, with its trial as it is.
    const club = product({ kind: 'subscription', regular: 900, interval: { every: 1, unit: 'month' }, charges: null, trial: { days: 14, price: 0 } });
    const { lines, later } = quote(input({ lines: [offerLine(offer({ ownPrice: 1_200 }), club, 'upsell', () => undefined)], buyer: { country: 'PT' } }));
    expect([lines[0]?.amount, later[0]?.parts[0]?.amount]).toEqual([0, 1_200]);
  });

  it('is set on every page that shows it, and on no other offer', () => {
    const step = (id: string, kind: 'sales' | 'checkout' | 'offer', sells: unknown[]) => ({ id, kind, name: id, slug: id, sells }) as unknown as Step;
    const checkout = step('checkout', 'checkout', [offer({ ownPrice: 2_900 }), offer({ id: 'off_000002', place: 'bump' })]);
    const graph = {
      steps: [
        step('sales', 'sales', [offer({ id: 'off_000003' })]),
        step('other', 'sales', [offer({ id: 'off_000004', productId: 'prd_other00' })]),
        checkout,
        step('upsell', 'offer', [offer({ id: 'off_000005' })]),
      ],
    };
    const operations = setOwnPrice(graph, checkout, offer({ ownPrice: 3_100 }));
    const changed = operations.flatMap((operation) =>
      operation.kind === 'changeStep' ? [[operation.stepId, operation.changes.sells?.map((each) => each.ownPrice)]] : [],
    );
    expect(changed).toEqual([
      ['checkout', [3_100, null]],
      ['sales', [3_100]],
    ]);
  });

  it('is that of the price it names, else of its edition, else of the product', () => {
    const [first, second] = onSale.editions.concat(oneEdition(newId, [{ kind: 'one-time', regular: 900 }, { kind: 'free' }]));
    const two = { editions: [first, second] } as Product;
    const ofSecond = second?.prices.map(({ id }) => id) ?? [];
    expect(offerOption(two, offer()).option.id).toBe(first?.prices[0]?.id);
    expect(offerOption(two, offer({ editionId: second?.id.replace('edition', 'edn') })).option.id).toBe(first?.prices[0]?.id);
    expect(offeredBy(two, { editionId: second?.id ?? '', priceId: null }).map(({ option }) => option.id)).toEqual(ofSecond);
    expect(isWhole(two, { editionId: null, priceId: 'gone' })).toBe(false);
    expect(isWhole(two, { editionId: second?.id ?? '', priceId: ofSecond[1] ?? '' })).toBe(true);
  });
});

describe('until when an offer stands', () => {
  const minutes = offer({ discount: { kind: 'percent', percent: 50, base: 'regular' }, deadline: { until: { kind: 'minutes', minutes: 15 } } });
  it.each([
    ['while it has not been seen', null, NOW + 9e9, true],
    ['in its last moment', NOW, NOW + 15 * 60_000 - 1, true],
    ['at its end, which is excluded', NOW, NOW + 15 * 60_000, false],
  ])('so many minutes: %s', (_when, seenAt, now, stands) => {
    expect(offerAt(minutes, seenAt, now) !== null).toBe(stands);
  });
  it('a date is the same for everybody, and afterwards the full price holds where the seller chose so', () => {
    const dated = offer({
      discount: { kind: 'percent', percent: 50, base: 'regular' },
      deadline: { until: { kind: 'date', at: NOW }, afterwards: 'full-price' },
    });
    expect(endsAt(dated, NOW - 5)).toBe(NOW);
    expect(offerAt(dated, null, NOW - 1)?.discount).not.toBeNull();
    expect(offerAt(dated, null, NOW)).toMatchObject({ discount: null });
  });
});

describe('to whom an offer is made', () => {
  const once = { buyAgain: false };
  const has = [{ productId: 'prd_wheel00', editionId: null, priceId: null, role: 'main', quantity: 1, categories: [], tags: [] }];
  it.each([
    ['nothing is known', {}, true],
    ['they own it', { owned: has }, false],
    ['they have just bought it', { bought: has }, false],
    ['they own something else', { owned: [{ ...has[0], productId: 'prd_other00' }] }, true],
  ])('that can be bought once: %s', (_what, facts, offered) => {
    expect(isOfferedTo(offer(), once, facts as never)).toBe(offered);
  });
  it('owners of what can be bought again are offered it, unless its condition says otherwise', () => {
    expect(isOfferedTo(offer(), { buyAgain: true }, { owned: has })).toBe(true);
    const condition = { not: { fact: 'owned', what: { by: 'product', productId: 'prd_wheel00' } } };
    expect(isOfferedTo(offer({ condition }), { buyAgain: true }, { owned: has })).toBe(false);
    // What is not known holds neither way, so that nobody is offered what may not be meant for them.
    expect(isOfferedTo(offer({ condition }), { buyAgain: true }, {})).toBe(false);
  });
});

describe('an order and what was added to it', () => {
  it('are one list whose sums are those that were charged', () => {
    const first = quote(input({ lines: [line(), wheel] }));
    // 240 g are within 250 g still: the same 4.90 was paid already, so nothing more is paid for shipping.
    const added = quote(input({ lines: [{ ...wheel, id: 'c', role: 'upsell' }], bought: boughtBy([first]) }));
    expect(added.shipping).toMatchObject({ total: 0, paidBefore: 0 });
    const whole = mergedQuote([storedQuote(first), storedQuote(added)]);
    expect(whole).toMatchObject({ dueToday: first.dueToday + 2_400, goods: 13_800 + 2_400 + 2_400 });
    expect(whole.lines.map(({ id }) => id)).toEqual(['a', 'b', 'c']);
  });

  it('always add up, whatever is added, and no addition is ever below nothing', () => {
    const amount = fc.integer({ min: 1, max: 50_000 });
    const added = fc.record({ regular: amount, physical: fc.boolean(), quantity: fc.integer({ min: 1, max: 5 }), weight: fc.integer({ min: 0, max: 400 }) });
    fc.assert(
      fc.property(amount, fc.array(added, { minLength: 1, maxLength: 4 }), fc.boolean(), (regular, additions, pricesIncludeTax) => {
        const shop = { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax };
        const quotes = [quote(input({ shop, lines: [line({ price: { kind: 'one-time', regular } })] }))];
        additions.forEach((each, index) => {
          const lines = [
            line({
              id: `u${index}`,
              role: 'upsell',
              kind: each.physical ? 'physical' : 'digital',
              weight: each.weight,
              quantity: each.quantity,
              price: { kind: 'one-time', regular: each.regular },
            }),
          ];
          quotes.push(quote(input({ shop, lines, bought: boughtBy(quotes) })));
        });
        const whole = mergedQuote(quotes.map((each) => storedQuote(each)));
        const sum = (of: (one: (typeof quotes)[number]) => number) => quotes.reduce((all, one) => all + of(one), 0);
        expect(whole.dueToday).toBe(sum(({ dueToday }) => dueToday));
        expect(whole.tax).toBe(sum(({ tax }) => tax));
        expect(whole.lines.reduce((all, each) => all + each.total, 0) + (whole.shipping?.total ?? 0)).toBe(whole.dueToday);
        expect(quotes.every(({ dueToday, shipping }) => dueToday >= 0 && (shipping?.total ?? 0) >= 0)).toBe(true);
      }),
      { numRuns: 200 },
    );
  });

  it('an offer’s line carries its own discount and quantity', () => {
    const made = offerLine(offer({ quantity: 3, discount: { kind: 'percent', percent: 50, base: 'regular' } }), onSale, 'bump', () => undefined);
    // 24.00 − 50 % = 12.00, three of them
    expect(quote(input({ lines: [{ ...made, weight: 10 }] })).goods).toBe(3_600);
  });
});
