import { type Code, CodeSchema } from '../../src/codes';
import { type QuoteInput, type QuoteLineInput, TAX_RATES_EU } from '../../src/pricing';
/** 15 March 2026, 12:00 in Lisbon. */
export const NOW = Date.UTC(2026, 2, 15, 12);

export function line(changes: Partial<QuoteLineInput> = {}): QuoteLineInput {
  return {
    id: 'a',
    productId: 'course',
    name: 'Course',
    role: 'main',
    kind: 'digital',
    taxClass: 'standard',
    weight: 0,
    price: { kind: 'one-time', regular: 13_800 },
    quantity: 1,
    ...changes,
  };
}

/** A printed disc of 24.00, 120 g. */
export const wheel = line({
  id: 'b',
  productId: 'wheel',
  name: 'Wheel',
  role: 'bump',
  kind: 'physical',
  weight: 120,
  price: { kind: 'one-time', regular: 2400 },
});

export function input(changes: Partial<QuoteInput> = {}): QuoteInput {
  return {
    shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
    taxTable: TAX_RATES_EU,
    shippingTable: [
      {
        name: 'Europe',
        countries: ['PT', 'NL', 'DE'],
        rate: {
          kind: 'weight',
          bands: [
            { upTo: 250, amount: 490 },
            { upTo: null, amount: 890 },
          ],
        },
        freeFrom: 10_000,
      },
    ],
    lines: [line()],
    buyer: { country: 'NL' },
    now: NOW,
    ...changes,
  };
}

export const exclusive: QuoteInput['shop'] = { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: false };

export function code(discount: { percent: number } | { fixed: number }, changes: Partial<Code> = {}): Code {
  return CodeSchema.parse({
    code: 'NIGHT',
    scope: { kind: 'order' },
    discount: 'percent' in discount ? { kind: 'percent', percent: discount.percent } : { kind: 'fixed', amount: discount.fixed },
    ...changes,
  });
}
