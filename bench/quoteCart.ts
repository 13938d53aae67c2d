import { type QuoteInput, quote, TAX_RATES_EU } from '@ruta/core/pricing';
import { inPairs, type Measurement, microseconds } from './measure';

const line = (id: string, role: 'main' | 'bump', kind: 'digital' | 'physical', regular: number): QuoteInput['lines'][number] => ({
  id,
  productId: `prd_${id}`,
  name: `Product ${id}`,
  role,
  kind,
  taxClass: kind === 'digital' ? 'digital' : 'standard',
  weight: 120,
  price: { kind: 'one-time', regular, sale: { amount: Math.round(regular * 0.8) } },
  quantity: 2,
});

/** A cart of four lines with a code. */
export const cart: QuoteInput = {
  shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: true },
  taxTable: TAX_RATES_EU,
  shippingTable: [{ name: 'Europe', countries: ['PT', 'NL', 'DE'], rate: { kind: 'weight', bands: [{ upTo: null, amount: 490 }] } }],
  lines: [line('a', 'main', 'digital', 13_800), line('b', 'bump', 'physical', 2400), line('c', 'bump', 'physical', 1900), line('d', 'bump', 'digital', 1800)],
  code: { code: 'LONGNIGHT', on: true, payments: 'first', scope: { kind: 'order' }, discount: { kind: 'fixed', amount: 1000 } },
  buyer: { country: 'NL', validTaxNumber: false },
  now: Date.UTC(2026, 0, 1),
};

const CALLS = 500;
const PAIRS = 41;

/** A full quote of four lines with code, tax and shipping, against copying the cart through JSON. */
export function quoteBench(): Promise<Measurement> {
  const copy = { shop: cart.shop, lines: cart.lines, code: cart.code, buyer: cart.buyer };
  return inPairs(
    'quote',
    'µs',
    PAIRS,
    () => microseconds(() => void quote(cart), CALLS),
    () => microseconds(() => void JSON.parse(JSON.stringify(copy)), CALLS),
  );
}
