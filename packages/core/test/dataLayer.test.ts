import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SummedQuote } from '../src/pricing';
import { hasCode } from '../src/shop';
import { DataLayerEntrySchema, ORDER_VALUES, purchaseEntry, wholeUnits, withOrderValues } from '../src/tracking';

const quote = {
  currency: 'EUR',
  dueToday: 15_040,
  tax: 2_610,
  shipping: { total: 640, net: 529 },
  code: { code: 'LONGNIGHT', applied: true, discount: 500 },
  lines: [
    { productId: 'prd_1', name: 'First Light', quantity: 1, discounted: 13_800 },
    { productId: 'prd_2', name: 'Red “Torch”', quantity: 2, discounted: 600 },
  ],
} as unknown as SummedQuote;
const entry = purchaseEntry('evt_1', '1042', quote);

describe('a purchase in the data layer', () => {
  it('has its sums in whole units, as its schema says', () => {
    expect(DataLayerEntrySchema.parse(entry)).toEqual(entry);
    expect(entry.order).toEqual({
      number: '1042',
      value: 150.4,
      tax: 26.1,
      shipping: 6.4,
      currency: 'EUR',
      code: 'LONGNIGHT',
      products: [
        { id: 'prd_1', name: 'First Light', quantity: 1, total: 138 },
        { id: 'prd_2', name: 'Red “Torch”', quantity: 2, total: 6 },
      ],
    });
  });
  it('knows currencies without and with three decimals', () => {
    expect([wholeUnits(1500, 'JPY'), wholeUnits(1500, 'EUR'), wholeUnits(1500, 'TND')]).toEqual([1500, 15, 1.5]);
  });
  it('is without shipping and code where there were none', () => {
    const plain = purchaseEntry('evt_1', '1', { ...quote, shipping: null, code: { ...quote.code, applied: false } } as SummedQuote);
    expect([plain.order.shipping, plain.order.code]).toEqual([0, null]);
  });
});

describe('code after a purchase', () => {
  it('has the order’s values put in, and leaves what it does not know', () => {
    expect(withOrderValues('buy("{{order.number}}", {{ order.value }}, "{{order.currency}}", "{{event.id}}") {{buyer.email}}', entry)).toBe(
      'buy("1042", 150.4, "EUR", "evt_1") {{buyer.email}}',
    );
    expect(Object.keys(ORDER_VALUES).every((name) => withOrderValues(`{{${name}}}`, entry) !== `{{${name}}}`)).toBe(true);
  });
  it('can never be broken out of by what an order holds', () => {
    fc.assert(
      fc.property(fc.string(), (code) => {
        const odd = { ...entry, order: { ...entry.order, code } };
        expect(withOrderValues('{{order.code}}', odd)).toMatch(/^[\w.,:-]*$/);
      }),
    );
  });
  it('counts as code, alone too', () => {
    expect([hasCode({ head: '', body: '' }), hasCode({ head: '', body: '', purchase: 'x' })]).toEqual([false, true]);
  });
});
