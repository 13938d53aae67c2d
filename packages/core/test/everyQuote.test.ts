import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Code } from '../src/codes';
import { type Quote, type QuoteInput, type QuoteLineInput, quote, sumTable } from '../src/pricing';
import { anyCode, lines, payments, where } from './support/anyCart';
import { code, input } from './support/cart';

function of(
  given: { lines: QuoteLineInput[]; code: Code | undefined; country: string; inclusive: boolean; business: boolean },
  changes: Partial<QuoteInput> = {},
): Quote {
  return quote(
    input({
      lines: given.lines,
      shop: { currency: 'EUR', country: 'PT', timeZone: 'Europe/Lisbon', pricesIncludeTax: given.inclusive },
      buyer: { country: given.country, validTaxNumber: given.business },
      ...(given.code ? { code: given.code } : {}),
      ...changes,
    }),
  );
}
const parts = (result: Quote) => [
  ...result.lines,
  ...result.later.flatMap((payment) => payment.parts),
  ...[result.shipping, ...result.later.map((payment) => payment.shipping)].flatMap((shipping) => shipping ?? []),
];

describe('every quote, of any cart', () => {
  it('adds up in every part, and is never negative', () => {
    fc.assert(
      fc.property(fc.record({ lines: lines(), code: anyCode, ...where }), (given) => {
        const result = of(given);
        for (const part of parts(result)) {
          expect(part.net + part.tax).toBe(part.total);
          expect(Math.min(part.net, part.tax, part.total)).toBeGreaterThanOrEqual(0);
        }
        for (const line of result.lines) {
          expect(line.taxShares.reduce((sum, share) => sum + share.base, 0)).toBe(line.discounted);
          expect(line.amount - line.codeDiscount).toBe(line.discounted);
        }
        const today = [...result.lines, ...(result.shipping ? [result.shipping] : [])];
        expect(today.reduce((sum, part) => sum + part.total, 0)).toBe(result.dueToday);
        expect(today.reduce((sum, part) => sum + part.tax, 0)).toBe(result.tax);
        // What people see adds up, too: lines, code, shipping and tax come to what is due, in whatever place it is shown.
        const rows = sumTable(result, 'Today');
        const shown = rows.reduce((sum, { kind, amount: value }) => (kind === 'line' || kind === 'change' ? sum + value : sum), 0);
        expect(shown).toBe(result.dueToday);
        expect(rows.find(({ kind }) => kind === 'due')?.amount).toBe(result.dueToday);
        if (!result.endless) expect(result.later.reduce((sum, payment) => sum + payment.total, 0)).toBe(result.dueLater);
        expect([...result.later].sort((a, b) => a.due - b.due)).toEqual(result.later);
      }),
      { numRuns: 300 },
    );
  });

  it('lets a fixed code act whole on each payment it applies to, and never more than once where it is for the first', () => {
    fc.assert(
      fc.property(
        fc.record({ lines: lines(fc.constant('digital' as const)), ...where }),
        fc.integer({ min: 1, max: 50_000 }),
        payments,
        (given, fixed, when) => {
          const result = of({ ...given, code: code({ fixed }, { payments: when }) });
          const taken = [
            { discount: result.discount, lines: result.lines },
            ...result.later.map((payment) => ({ discount: payment.codeDiscount, lines: payment.parts })),
          ];
          const due = taken.map(({ lines: each }) => each.reduce((sum, part) => sum + (part.part === 'set-up fee' ? 0 : part.amount), 0));
          const first = due.findIndex((value) => value > 0);
          for (const [index, { discount }] of taken.entries()) {
            expect(discount).toBe(when === 'every' || index === first ? Math.min(fixed, due[index] ?? 0) : 0);
          }
        },
      ),
    );
  });

  it('costs no more with a bigger discount, and the order of lines matters to nothing but a tie', () => {
    fc.assert(
      fc.property(fc.record({ lines: lines(fc.constant('digital' as const)), ...where }), fc.integer({ min: 1, max: 99 }), payments, (given, percent, when) => {
        const flat = given.lines.map(({ parts: _parts, ...line }) => line);
        const [less, more] = [percent, percent + 1].map((each) => of({ ...given, lines: flat, code: code({ percent: each }, { payments: when }) }));
        expect(more?.dueToday).toBeLessThanOrEqual(less?.dueToday ?? 0);
        for (const [index, payment] of (more?.later ?? []).entries()) expect(payment.total).toBeLessThanOrEqual(less?.later[index]?.total ?? 0);
        const turned = of({ ...given, lines: flat.toReversed(), code: code({ percent }, { payments: when }) });
        expect([turned.dueToday, turned.later.map((payment) => payment.total)]).toEqual([less?.dueToday, less?.later.map((payment) => payment.total)]);
      }),
    );
  });

  it('asks the same inclusive price of a buyer outside all tax areas as is listed', () => {
    fc.assert(
      fc.property(fc.record({ lines: lines(fc.constant('digital' as const)), code: anyCode }), (given) => {
        const flat = given.lines.map(({ parts: _parts, ...line }) => line);
        const result = of({ ...given, lines: flat, country: 'US', inclusive: true, business: false });
        expect([result.tax, result.dueToday]).toEqual([0, result.goods]);
      }),
    );
  });
});
