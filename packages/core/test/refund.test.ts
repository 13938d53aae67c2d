import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type RefundInput, RefundInputSchema, refund, refundedNet } from '../src/orders';
import { remainingNet } from '../src/partners';

const paid: RefundInput['lines'] = [
  { id: 'course', total: 13_800, tax: 2395, refunded: 0 },
  { id: 'shipping', total: 490, tax: 85, refunded: 0 },
];

describe('a refund', () => {
  it('is without tax what it is by the running total, and not by rounding anew', () => {
    // 0.05 of 0.10 with 0.03 tax: round(3 × 5 ÷ 10) = 2 tax, so 0.03; 7 × 5 ÷ 10 would be rounded to 0.04.
    expect(refundedNet({ total: 10, tax: 3, refunded: 5 })).toBe(3);
    expect(remainingNet({ total: 10, net: 7, refunded: 5 })).toBe(4);
    expect(refund({ lines: [{ id: 'a', total: 10, tax: 3, refunded: 0 }], refund: [{ id: 'a', amount: 5 }] })).toMatchObject({ tax: 2, net: 3 });
  });
  it('returns tax in proportion, rounded at the running total', () => {
    // 46.00 of 138.00: 23.95 × 4600 ÷ 13800 = 7.9833 → 7.98
    expect(refund({ lines: paid, refund: [{ id: 'course', amount: 4600 }] }).lines).toEqual([
      { id: 'course', amount: 4600, tax: 798, net: 3802, left: 9200, taxLeft: 1597 },
    ]);
    // the second third: 23.95 × 9200 ÷ 13800 = 15.9667 → 15.97; less 7.98 = 7.99
    const second = refund({ lines: [{ id: 'course', total: 13_800, tax: 2395, refunded: 4600 }], refund: [{ id: 'course', amount: 4600 }] });
    expect(second.lines[0]).toMatchObject({ tax: 799, left: 4600, taxLeft: 798 });
  });
  it('returns everything that is left, shipping as a line', () => {
    const result = refund({ lines: [{ ...paid[0], refunded: 4600 } as (typeof paid)[number], ...paid.slice(1)], refund: 'everything' });
    expect(result).toMatchObject({ total: 9690, tax: 1597 + 85, net: 9690 - 1682 });
  });
  it.each<[RefundInput['refund'], string]>([
    [[{ id: 'course', amount: 13_801 }], 'Only 13800 is left'],
    [
      [
        { id: 'shipping', amount: 1 },
        { id: 'course', amount: 10_000 },
        { id: 'course', amount: 3801 },
      ],
      'Only 13800 is left',
    ],
    [[{ id: 'book', amount: 1 }], 'no line “book”'],
    [[{ id: 'course', amount: 0 }], 'above zero'],
  ])('%j is refused whole', (asked, message) => {
    expect(() => refund({ lines: paid, refund: asked })).toThrow(message);
    expect(RefundInputSchema.safeParse({ lines: paid, refund: asked }).success).toBe(false);
  });
  it('gives back exactly the tax, however it is cut up', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 1_000_000 }),
        fc.integer({ min: 0, max: 100 }),
        fc.array(fc.integer({ min: 1, max: 100_000 }), { maxLength: 12 }),
        (total, share, cuts) => {
          const tax = Math.floor((total * share) / 100);
          let refunded = 0;
          let returnedTax = 0;
          let returnedNet = 0;
          for (const cut of [...cuts, total]) {
            const amount = Math.min(cut, total - refunded);
            if (amount === 0) break;
            const result = refund({ lines: [{ id: 'a', total, tax, refunded }], refund: [{ id: 'a', amount }] });
            expect(result.tax).toBeGreaterThanOrEqual(0);
            expect(result.tax).toBeLessThanOrEqual(amount);
            refunded += amount;
            returnedTax += result.tax;
            returnedNet += result.net;
            // The report's figure and the partner's base are what the refunds themselves say, at every moment.
            expect(refundedNet({ total, tax, refunded })).toBe(returnedNet);
            expect(remainingNet({ total, net: total - tax, refunded })).toBe(total - tax - returnedNet);
          }
          expect([refunded, returnedTax]).toEqual([total, tax]);
        },
      ),
    );
  });
});
