import { z } from 'zod';

/** An ISO 4217 alphabetic currency code, upper case. */
export const CurrencySchema = z
  .string()
  .regex(/^[A-Z]{3}$/, 'A currency is three capital letters, for example EUR.')
  .refine((code) => Intl.supportedValuesOf('currency').includes(code), 'This is not a currency that is in use.');

export type Currency = z.infer<typeof CurrencySchema>;

const digitsByCurrency = new Map<string, number>();

/**
 * Decimal places of a currency's minor unit (ISO 4217): 2 for EUR, 0 for JPY, 3 for KWD.
 * @throws RangeError if the code is not well formed
 */
export function minorDigits(currency: Currency): number {
  let digits = digitsByCurrency.get(currency);
  if (digits === undefined) {
    digits = new Intl.NumberFormat('en', { style: 'currency', currency }).resolvedOptions().maximumFractionDigits ?? 2;
    digitsByCurrency.set(currency, digits);
  }
  return digits;
}
