import { CodeSchema } from '@ruta/core/codes';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { leftOf } from '../src/catalog/availability';
import { HOLD_MS, holdFor, type Wish } from '../src/checkout/holds';
import { type TestServices, testServices } from './support/services';

let services: TestServices;
beforeEach(() => {
  services = testServices();
});
afterEach(() => services.end());

const place = { id: 'edn_000000001', stock: 3, name: 'Sky Plan' };
const code = {
  id: 'cod_000000001',
  terms: CodeSchema.parse({ code: 'ONE', scope: { kind: 'order' }, discount: { kind: 'percent', percent: 5 }, limit: 2, limitPerBuyer: 1 }),
};
const hold = (cartId: string, quantity: number, extra: Partial<Wish> = {}) =>
  holdFor(services, { cartId, email: `${cartId}@moonmail.test`, editions: [{ ...place, quantity }], ...extra });

describe('what is held while somebody pays', () => {
  it('is out of reach for others until it runs out, and never in the way of who holds it', () => {
    expect(hold('crt_a', 2)).toBeUndefined();
    expect(leftOf(services, place, 'crt_a')).toBe(3);
    expect(leftOf(services, place, 'crt_b')).toBe(1);
    expect(hold('crt_b', 2)).toMatchObject({ field: 'quantity', message: expect.stringContaining('Only 1') });
    // Asking again keeps it longer, and does not take more.
    services.moment.at += HOLD_MS - 1;
    expect(hold('crt_a', 3)).toBeUndefined();
    services.moment.at += HOLD_MS - 1;
    expect(hold('crt_b', 1)).toMatchObject({ message: expect.stringContaining('sold out') });
    services.moment.at += 1;
    expect(hold('crt_b', 3)).toBeUndefined();
  });

  it('is held whole or not at all: a code that cannot be had leaves the places free', () => {
    expect(hold('crt_a', 1, { code })).toBeUndefined();
    // The same buyer in another window, and then a third for a code of two uses.
    expect(hold('crt_b', 1, { code, email: 'crt_a@moonmail.test' })).toMatchObject({ field: 'code' });
    expect(leftOf(services, place, 'crt_z')).toBe(2);
    expect(hold('crt_c', 1, { code })).toBeUndefined();
    expect(hold('crt_d', 1, { code })).toMatchObject({ field: 'code', message: expect.stringContaining('used up') });
    expect(leftOf(services, place, 'crt_z')).toBe(1);
  });

  it('counts one edition once, however many lines want it', () => {
    expect(holdFor(services, { cartId: 'crt_a', email: '', editions: [2, 2].map((quantity) => ({ ...place, quantity })) })).toMatchObject({
      field: 'quantity',
    });
  });
});
