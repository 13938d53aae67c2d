import { formatMoney, minorDigits } from '@ruta/core/money';
import { findTaxRow, rateOf, type ShopView, taxAmount } from '@ruta/core/pricing';
import { countryName, type Shop } from '@ruta/core/shop';

/** A round price to show what a change does. */
const EXAMPLE = 100;

/**
 * What a change of the settings does to every live checkout at once, in words; empty if nothing.
 * @param now Unix time in milliseconds
 */
export function consequencesOf({ settings, taxTable }: Pick<ShopView, 'settings' | 'taxTable'>, wanted: Shop, now = Date.now()): string[] {
  const words: string[] = [];
  if (wanted.pricesIncludeTax !== settings.pricesIncludeTax) {
    const price = EXAMPLE * 10 ** minorDigits(settings.currency);
    const rate = rateOf(findTaxRow(taxTable, wanted.country, undefined, now), 'standard');
    const money = (amount: number) => formatMoney(amount, settings.currency);
    const paid = (inclusive: boolean) => money(taxAmount(price, rate, inclusive, false).total);
    words.push(
      `Every price is read anew. Who pays ${paid(settings.pricesIncludeTax)} today for a price of ${money(price)} will pay ${paid(wanted.pricesIncludeTax)} in ${countryName(wanted.country)}. Fixed discount codes and shipping rates are read anew too.`,
    );
  }
  return words;
}
