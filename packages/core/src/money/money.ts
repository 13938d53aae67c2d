import { z } from 'zod';
import type { Currency } from './currency';
import { minorDigits } from './currency';

/** The largest amount Ruta handles, in minor units; keeps every product of amount and rate a safe integer. */
export const MAX_MINOR = 1_000_000_000_00;

/** An amount in minor units of the shop's currency, never negative. */
export const AmountSchema = z
  .int('An amount is a whole number of minor units.')
  .min(0, 'An amount cannot be negative.')
  .max(MAX_MINOR, 'This amount is too large.');

/** `round(amount × numerator / denominator)`, half away from zero; exact for whole arguments of any size. */
export function multiplyRatio(amount: number, numerator: number, denominator: number): number {
  const product = Math.abs(amount) * numerator;
  if (!Number.isSafeInteger(product)) {
    const exact = (2n * BigInt(Math.abs(amount)) * BigInt(numerator) + BigInt(denominator)) / (2n * BigInt(denominator));
    return Math.sign(amount) * Number(exact);
  }
  const quotient = Math.floor(product / denominator);
  const rounded = 2 * (product - quotient * denominator) >= denominator ? quotient + 1 : quotient;
  return amount < 0 ? -rounded : rounded;
}

/** Percentages are exact to four decimal places. */
const PERCENT_STEPS = 10_000;

/** `round(amount × percent / 100)`, half away from zero. */
export function percentOf(amount: number, percent: number): number {
  return multiplyRatio(amount, Math.round(percent * PERCENT_STEPS), 100 * PERCENT_STEPS);
}

/** The part of a gross amount that is tax at `percent`: `round(gross × percent / (100 + percent))`. */
export function taxWithin(gross: number, percent: number): number {
  const rate = Math.round(percent * PERCENT_STEPS);
  return multiplyRatio(gross, rate, 100 * PERCENT_STEPS + rate);
}

/**
 * Splits a whole amount over whole weights in proportion (largest remainder; ties go to the earlier part).
 * The parts add up to `amount`. With no positive weight everything is 0.
 */
export function splitByWeight(amount: number, weights: readonly number[]): number[] {
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  if (total <= 0) return weights.map(() => 0);
  const shares = weights.map((weight, index) => {
    const product = BigInt(amount) * BigInt(weight);
    return { index, part: Number(product / BigInt(total)), remainder: Number(product % BigInt(total)) };
  });
  const parts = shares.map((share) => share.part);
  const left = amount - parts.reduce((sum, part) => sum + part, 0);
  const byRemainder = [...shares].sort((a, b) => b.remainder - a.remainder || a.index - b.index);
  for (const { index } of byRemainder.slice(0, left)) parts[index] = (parts[index] ?? 0) + 1;
  return parts;
}

const formatters = new Map<string, Intl.NumberFormat>();

/** Formats minor units for people: `formatMoney(2400, 'EUR')` → `€24.00`. `short` drops zero decimals: `€24`. */
export function formatMoney(amount: number, currency: Currency, options: { locale?: string; short?: boolean } = {}): string {
  const digits = minorDigits(currency);
  const scale = 10 ** digits;
  const fraction = options.short && amount % scale === 0 ? 0 : digits;
  const key = `${options.locale ?? 'en'} ${currency} ${fraction}`;
  let formatter = formatters.get(key);
  if (!formatter) {
    formatter = new Intl.NumberFormat(options.locale ?? 'en', {
      style: 'currency',
      currency,
      currencyDisplay: 'narrowSymbol',
      minimumFractionDigits: fraction,
      maximumFractionDigits: fraction,
    });
    formatters.set(key, formatter);
  }
  return formatter.format(amount / scale);
}

/** Plain decimal text for a form field: `toDecimal(2400, 'EUR')` → `24.00`. */
export function toDecimal(amount: number, currency: Currency): string {
  return (amount / 10 ** minorDigits(currency)).toFixed(minorDigits(currency));
}

export type ParsedMoney = { ok: true; amount: number } | { ok: false; message: string };

/**
 * Reads what a person typed as a price ("24", "24.5", "24,50", "€9.99", "1.234,50 EUR") into minor units.
 * A comma or a point is the decimal mark. Thousands may be grouped where it is clear that they are: by the other mark, or
 * several times by the same one. "1.234" alone is refused, since guessing wrongly would move the price by a factor of a
 * thousand.
 */
export function parseMoney(text: string, currency: Currency): ParsedMoney {
  const digits = minorDigits(currency);
  const example = toDecimal(2400 * 10 ** Math.max(0, digits - 2), currency);
  const typed = text
    .replace(/[\s'’]/g, '')
    .replace(/^\p{Sc}|\p{Sc}$/u, '')
    .replace(new RegExp(`^${currency}|${currency}$`, 'i'), '');
  if (typed === '') return { ok: false, message: 'Enter an amount.' };
  if (/^[-−]/.test(typed)) return { ok: false, message: 'An amount cannot be negative.' };
  const grouped = /^(\d{1,3}(?:([.,])\d{3})(?:\2\d{3})*)(?:(?!\2)[.,](\d*))?$/.exec(typed);
  const isGrouped = grouped !== null && (grouped[3] !== undefined || (grouped[1]?.split(/[.,]/).length ?? 0) > 2);
  if (!isGrouped && !/^\d+([.,]\d*)?$/.test(typed)) {
    return { ok: false, message: `Write the amount with digits and at most one decimal mark, for example ${example}.` };
  }
  const [whole = '0', fraction = ''] = isGrouped ? [grouped[1]?.replace(/[.,]/g, ''), grouped[3]] : typed.split(/[.,]/);
  if (fraction.length > digits) {
    const places = digits === 0 ? 'no decimals' : `at most ${digits} decimals`;
    return { ok: false, message: `${currency} has ${places}.` };
  }
  const amount = Number(whole + fraction.padEnd(digits, '0'));
  if (!Number.isSafeInteger(amount) || amount > MAX_MINOR) return { ok: false, message: 'This amount is too large.' };
  return { ok: true, amount };
}
