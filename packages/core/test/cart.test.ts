import { describe, expect, it } from 'vitest';
import { descriptionText, isFree, namedEdition, oneEdition, type Product, ProductInputSchema } from '../src/catalog';
import { type IdKind, makeId } from '../src/ids';
import { bundleParts, cartLine, chosenOption, lineName, quote, ShippingTableSchema } from '../src/pricing';
import { input } from './support/cart';

let count = 0;
const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000 + ++count, new Uint8Array(10));

function product(name: string, changes: object = {}): Product {
  const parsed = ProductInputSchema.parse({ name, editions: oneEdition(newId, [{ kind: 'one-time', regular: 2400 }]), ...changes });
  return { ...parsed, id: newId('product'), pictures: [], files: [], archivedAt: null, createdAt: 0, updatedAt: 0 };
}

const wheel = product('Star Wheel', {
  kind: 'physical',
  editions: [
    namedEdition(
      newId,
      '50° north',
      [
        { kind: 'one-time', regular: 2400 },
        { name: 'In two', price: { kind: 'instalments', regular: 2600, count: 2, interval: { every: 1, unit: 'month' } } },
      ],
      { weight: 120 },
    ),
    namedEdition(newId, '35° south', [{ kind: 'one-time', regular: 2600 }], { weight: 130 }),
  ],
});

describe('a cart’s line', () => {
  it('takes the chosen edition and price, or the first', () => {
    const south = wheel.editions[1]?.prices[0]?.id;
    expect(cartLine('a', 'main', wheel, { priceId: south, quantity: 3 })).toMatchObject({
      name: 'Star Wheel, 35° south',
      editionId: wheel.editions[1]?.id,
      priceId: south,
      weight: 130,
      quantity: 3,
      price: { regular: 2600 },
    });
    expect(cartLine('a', 'main', wheel)).toMatchObject({ name: 'Star Wheel, 50° north', quantity: 1 });
    expect(chosenOption(wheel, 'prc_gone').option).toBe(wheel.editions[0]?.prices[0]);
  });
  it('is named by its edition only where there are several', () => {
    const torch = product('Torch');
    expect(lineName(torch, chosenOption(torch, undefined))).toBe('Torch');
  });
  it('of a bundle carries its parts with their own regular prices, and is sent if a part is', () => {
    const book = product('Book', { taxClass: 'reduced', editions: oneEdition(newId, [{ kind: 'one-time', regular: 1200, sale: { amount: 900 } }]) });
    const gift = product('Gift', { editions: oneEdition(newId, [{ kind: 'free' }]) });
    const tip = product('Tip', { editions: oneEdition(newId, [{ kind: 'pay-what-you-want', minimum: 0, suggested: 500 }]) });
    const all = [wheel, book, gift, tip];
    const kit = product('Kit', {
      editions: oneEdition(newId, [{ kind: 'one-time', regular: 5000 }]),
      bundle: all.map((part, index) => ({ productId: part.id, editionId: part.editions[index === 0 ? 1 : 0]?.id, quantity: index + 1 })),
    });
    const find = (id: string) => all.find((part) => part.id === id);
    // The regular price counts, not the sale; the free part weighs nothing in the price.
    expect(bundleParts(kit, find).map(({ regular, quantity, weight }) => [regular, quantity, weight])).toEqual([
      [2600, 1, 130],
      [1200, 2, 0],
      [0, 3, 0],
      [500, 4, 0],
    ]);
    const line = cartLine('a', 'main', kit, { quantity: 2 }, { find });
    // Two bundles with one wheel of 130 g each: 260 g to Germany, and free from 100.00
    expect(quote(input({ lines: [line], buyer: { country: 'DE' } })).shipping).toMatchObject({ weight: 260, listed: 0, value: 10_000 });
    expect(bundleParts(kit)).toEqual([]);
  });
});

describe('a product’s own terms', () => {
  const editions = (...names: string[]) => names.map((name) => namedEdition(newId, name, [{ kind: 'free' }]));
  it.each([
    [{ editions: editions('', 'Large') }, ['editions', 0, 'name'], 'Name each edition'],
    [{ editions: editions('Large', 'large') }, ['editions', 1, 'name'], 'have this name'],
    [
      { editions: [namedEdition(newId, 'A', [{ kind: 'free' }], { sku: 'X' }), namedEdition(newId, 'B', [{ kind: 'free' }], { sku: 'x' })] },
      ['editions', 1, 'sku'],
      'this SKU',
    ],
    [{ editions: oneEdition(newId, []) }, ['editions', 0, 'prices'], 'at least one price'],
    [{ delivery: { keys: { kind: 'pattern', pattern: 'SKY-##' } } }, ['delivery', 'keys', 'pattern'], 'cannot be guessed'],
    [{ confirmation: { kind: 'page', buttonWords: 'Go' } }, ['confirmation', 'buttonUrl'], 'both'],
    [{ leadTo: { kind: 'address', url: 'ftp://x.test' } }, ['leadTo', 'url'], 'https://'],
    [{ tags: ['x'.repeat(61)] }, ['tags', 0], 'under 60'],
  ])('%j is refused at %j', (changes, path, message) => {
    const result = ProductInputSchema.safeParse({ name: 'A', editions: editions(''), ...changes });
    expect(result.error?.issues).toContainEqual(expect.objectContaining({ path, message: expect.stringContaining(message) }));
  });
  it('let a product be free only if every price is', () => {
    expect(isFree(product('A', { editions: editions('') }))).toBe(true);
    expect(isFree(product('A', { editions: [...editions('X'), namedEdition(newId, 'Y', [{ kind: 'one-time', regular: 1 }])] }))).toBe(false);
  });
  it('have a description that reads as plain words too', () => {
    expect(descriptionText('<p>Six&nbsp;weeks &amp; <strong>two</strong> moons.</p><ul><li>One</li><li>Two &lt; three</li></ul>')).toBe(
      'Six weeks & two moons. One. Two < three.',
    );
  });
});

describe('a shipping table’s own terms', () => {
  const zone = { name: 'A', countries: ['PT'], rate: { kind: 'flat' as const, amount: 100 } };
  it.each([
    [[zone, { ...zone, name: 'B' }], [1, 'countries'], 'in “A” already'],
    [[{ ...zone, countries: [] }], [0, 'countries'], 'at least one country'],
    [
      [
        {
          ...zone,
          rate: {
            kind: 'weight',
            bands: [
              { upTo: 500, amount: 1 },
              { upTo: 250, amount: 2 },
            ],
          },
        },
      ],
      [0, 'rate', 'bands', 1, 'upTo'],
      'further',
    ],
    [
      [
        {
          ...zone,
          rate: {
            kind: 'value',
            bands: [
              { upTo: null, amount: 1 },
              { upTo: 250, amount: 2 },
            ],
          },
        },
      ],
      [0, 'rate', 'bands', 1, 'upTo'],
      'last one',
    ],
  ])('%j is refused at %j', (table, path, message) => {
    expect(ShippingTableSchema.safeParse(table).error?.issues).toContainEqual(expect.objectContaining({ path, message: expect.stringContaining(message) }));
  });
  it('let a region stand beside its country', () => {
    expect(ShippingTableSchema.safeParse([zone, { ...zone, name: 'B', region: 'Azores' }]).success).toBe(true);
  });
});
