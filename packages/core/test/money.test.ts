import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatMoney, MAX_MINOR, minorDigits, multiplyRatio, parseMoney, percentOf, splitByWeight, taxWithin, toDecimal } from '../src/money';

describe('rounding', () => {
  it.each([
    // amount, numerator, denominator, expected: half away from zero
    [5, 1, 2, 3], // 2.5 → 3
    [-5, 1, 2, -3], // −2.5 → −3
    [4, 1, 3, 1], // 1.33 → 1
    [5, 1, 3, 2], // 1.67 → 2
    [0, 7, 9, 0],
    // 99,999,999,999 × 1,210,000 ÷ 1,000,000 = 120,999,999,998.79 → …999; the product is beyond 2^53
    [99_999_999_999, 1_210_000, 1_000_000, 120_999_999_999],
  ])('%d × %d ÷ %d = %d', (amount, numerator, denominator, expected) => {
    expect(multiplyRatio(amount, numerator, denominator)).toBe(expected);
  });

  it.each([
    [13_800, 21, 2898], // 138.00 × 21 % = 28.98
    [1, 50, 1], // half a cent rounds up
    [1005, 10, 101], // 100.5 → 101
    [1999, 25.5, 510], // 509.745 → 510
  ])('%d at %d %% = %d', (amount, percent, expected) => {
    expect(percentOf(amount, percent)).toBe(expected);
  });

  it('takes tax out of a gross amount', () => {
    // 138.00 at 23 %: 13800 × 23 ÷ 123 = 2580.49 → 25.80
    expect(taxWithin(13_800, 23)).toBe(2580);
    // 9.99 at 5.5 %: 999 × 5.5 ÷ 105.5 = 52.08 → 0.52
    expect(taxWithin(999, 5.5)).toBe(52);
  });
});

describe('splitting', () => {
  it('gives the remainder to the largest fractions, and to the earlier part on a tie', () => {
    // 100 over 1:1:1 = 33.33 each; one cent is left and all fractions tie, so the first gets it.
    expect(splitByWeight(100, [1, 1, 1])).toEqual([34, 33, 33]);
    // 10.00 over 24.00 : 19.00 : 0 = 558.14, 441.86, 0; the cent goes to .86.
    expect(splitByWeight(1000, [2400, 1900, 0])).toEqual([558, 442, 0]);
    expect(splitByWeight(500, [0, 0])).toEqual([0, 0]);
  });

  it('always adds up, and no part is further than one from its exact share', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: MAX_MINOR }),
        fc.array(fc.integer({ min: 0, max: MAX_MINOR }), { minLength: 1, maxLength: 8 }),
        (amount, weights) => {
          const total = weights.reduce((sum, weight) => sum + weight, 0);
          fc.pre(total > 0);
          const parts = splitByWeight(amount, weights);
          expect(parts.reduce((sum, part) => sum + part, 0)).toBe(amount);
          parts.forEach((part, index) => {
            const floor = Number((BigInt(amount) * BigInt(weights[index] ?? 0)) / BigInt(total));
            expect(part - floor).toBeGreaterThanOrEqual(0);
            expect(part - floor).toBeLessThanOrEqual(1);
          });
        },
      ),
    );
  });
});

describe('reading and writing amounts', () => {
  it('knows currencies with 0, 2 and 3 decimals', () => {
    expect(['EUR', 'JPY', 'KWD'].map(minorDigits)).toEqual([2, 0, 3]);
    expect(formatMoney(2400, 'EUR')).toBe('€24.00');
    expect(formatMoney(2400, 'EUR', { short: true })).toBe('€24');
    expect(formatMoney(2400, 'JPY')).toBe('¥2,400');
    expect(toDecimal(2400, 'KWD')).toBe('2.400');
  });

  it.each([
    ['24', 'EUR', 2400],
    ['24.5', 'EUR', 2450],
    [' 24,50 ', 'EUR', 2450],
    ['2400', 'JPY', 2400],
    ['2.125', 'KWD', 2125],
    ['0', 'EUR', 0],
    ['€9.99', 'EUR', 999],
    ['9,99 €', 'EUR', 999],
    ['1.234,50', 'EUR', 123_450],
    ['1,234.50', 'EUR', 123_450],
    ['EUR 1 234,5', 'EUR', 123_450],
    ['1’234’567.10', 'CHF', 123_456_710],
    ['1.234.567', 'EUR', 123_456_700],
    ['1,234,567', 'JPY', 1_234_567],
  ])('reads “%s” in %s', (text, currency, amount) => {
    expect(parseMoney(text, currency)).toEqual({ ok: true, amount });
  });

  it.each([
    ['', 'EUR', 'Enter an amount.'],
    ['-3', 'EUR', 'cannot be negative'],
    ['1.23.4,50', 'EUR', 'at most one decimal mark'],
    ['1.234', 'EUR', 'at most 2 decimals'],
    ['12,34.56', 'EUR', 'at most one decimal mark'],
    ['€€9', 'EUR', 'digits'],
    ['9 USD', 'EUR', 'digits'],
    ['−3', 'EUR', 'cannot be negative'],
    ['12.345', 'EUR', 'at most 2 decimals'],
    ['12.5', 'JPY', 'no decimals'],
    ['abc', 'EUR', 'digits'],
    ['99999999999999', 'EUR', 'too large'],
  ])('refuses “%s” in %s', (text, currency, message) => {
    const parsed = parseMoney(text, currency);
    expect(parsed.ok).toBe(false);
    expect(parsed.ok ? '' : parsed.message).toContain(message);
  });
});
