import { type CommissionInput, CommissionInputSchema, commission, type EarningLine, PartnerSchema, type RateRule, rateFor } from '@ruta/core/partners';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';

const percent = (productId: string | null, priceId: string | null, of: number): RateRule => ({ productId, priceId, rate: { kind: 'percent', percent: of } });
const amount = (productId: string | null, of: number): RateRule => ({ productId, priceId: null, rate: { kind: 'amount', amount: of } });
const ask = (line: Partial<EarningLine>, more: Partial<CommissionInput['program']> & { own?: RateRule[] } = {}) => {
  const { own = [], ...program } = more;
  const { lines, ...terms } = CommissionInputSchema.parse({
    lines: [{ id: 'a', productId: 'prd_course', priceId: 'prc_full', total: 12_300, net: 10_000, ...line }],
    program: { rules: [percent(null, null, 30)], ...program },
    rules: own,
  });
  return commission({ lines, ...terms });
};

describe('a commission', () => {
  it.each<[string, Partial<EarningLine>, Parameters<typeof ask>[1], number]>([
    // 30 % of 100.00, not of the 123.00 with tax
    ['is of the line without tax', {}, {}, 3000],
    // 30 % of 99.99 is 29.997
    ['is rounded on the line', { net: 9999 }, {}, 3000],
    // 12.5 % of 0.04 is 0.005, half away from zero
    ['is rounded half away from zero', { total: 4, net: 4 }, { rules: [percent(null, null, 12.5)] }, 1],
    ['is of the product’s own rate first', {}, { rules: [percent(null, null, 30), percent('prd_course', null, 20)] }, 2000],
    ['is of the price’s own rate before the product’s', {}, { rules: [percent('prd_course', null, 20), percent('prd_course', 'prc_full', 10)] }, 1000],
    ['is of the partner’s own rates before all of these', {}, { rules: [percent('prd_course', 'prc_full', 10)], own: [percent(null, null, 50)] }, 5000],
    // 3 × 15.00
    ['can be an amount for each', { quantity: 3 }, { rules: [amount(null, 1500)] }, 4500],
    ['is no amount of a set-up fee', { part: 'set-up fee' }, { rules: [amount(null, 1500)] }, 0],
    ['is a percentage of a set-up fee', { part: 'set-up fee' }, {}, 3000],
    ['is nothing where there is no rate', { productId: 'prd_other' }, { rules: [percent('prd_course', null, 20)] }, 0],
    ['is earned by bumps', { role: 'bump' }, {}, 3000],
    ['is not earned by bumps once they are left out', { role: 'bump' }, { bumps: false }, 0],
    ['is not earned by downsells once additions are left out', { role: 'downsell' }, { upsells: false }, 0],
    ['is not earned by later charges once they are left out', { isLater: true }, { laterCharges: false }, 0],
    // 41.00 of 123.00 came back: 33.33 of 100.00; 30 % of 66.67 is 20.001
    ['is of what remains after a refund', { refunded: 4100 }, {}, 2000],
    // 2 × 15.00 × 66.67 ÷ 100.00 is 20.001
    ['is an amount less what came back', { refunded: 4100, quantity: 2 }, { rules: [amount(null, 1500)] }, 2000],
    ['is nothing once all came back', { refunded: 12_300 }, { rules: [amount(null, 1500)] }, 0],
    ['is nothing of a gift', { total: 0, net: 0 }, { rules: [amount(null, 1500)] }, 0],
  ])('%s', (_name, line, terms, expected) => {
    expect(ask(line, terms).commission).toBe(expected);
  });

  it('is earned by whoever recruited the partner, of the same base, and only where the partner earns', () => {
    // 5 % of 66.67 is 3.3335
    expect(ask({ refunded: 4100 }, { secondTierPercent: 5 })).toMatchObject({ commission: 2000, secondTier: 333 });
    expect(ask({ role: 'bump' }, { secondTierPercent: 5, bumps: false }).secondTier).toBe(0);
  });

  it('is never below nothing nor above what is left, however much comes back', () => {
    fc.assert(
      fc.property(
        fc.nat(1_000_000),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.nat(100),
        (total, taxed, back, of) => {
          const refunded = Math.floor(total * back);
          const net = Math.floor(total * (1 - taxed / 4));
          const { lines, commission: earned } = ask({ total, net, refunded }, { rules: [percent(null, null, of)] });
          expect(earned).toBeGreaterThanOrEqual(0);
          expect(earned).toBeLessThanOrEqual(lines[0]?.base ?? -1);
        },
      ),
    );
  });
});

describe('rates', () => {
  it('say once what is paid for what', () => {
    const twice = PartnerSchema.safeParse({ name: 'Marisol', email: 'm@notes.test', code: 'marisol', rules: [percent(null, null, 1), percent(null, null, 2)] });
    expect(twice.error?.issues[0]?.message).toBe('There are two rates for the same. Take one of them away.');
    expect(rateFor({ productId: 'prd_a', priceId: null }, [], [percent('prd_a', 'prc_b', 5)])).toBeUndefined();
  });

  it.each([
    ['Marisol’s notes', 'Use letters, digits and single dashes.'],
    ['m', 'Use at least two letters.'],
  ])('a partner is not written “%s” in links', (code, message) => {
    expect(PartnerSchema.safeParse({ name: 'M', email: 'm@notes.test', code }).error?.issues[0]?.message).toBe(message);
  });
});
