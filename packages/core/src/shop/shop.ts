import { z } from 'zod';
import { CurrencySchema } from '../money';
import { COUNTRY_CODES } from './countries';
import { OwnCodeSchema } from './ownCode';

/** ISO 3166-1 alpha-2 country code, upper case. */
export const CountrySchema = z.string().refine((code) => COUNTRY_CODES.includes(code), 'Choose a country.');

/** An IANA time zone that this computer knows, for example `Europe/Lisbon`. */
export const TimeZoneSchema = z.string().refine((zone) => {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}, 'This is not a known time zone.');

/** In test mode sales can be made but nothing is really charged, and they are left out of every figure. */
export const ModeSchema = z.enum(['test', 'live']);
export type Mode = z.infer<typeof ModeSchema>;

export const EmailSchema = z.string().trim().max(254, 'This address is too long.').pipe(z.email('Enter an e-mail address, for example name@example.test.'));

/** What holds for the whole shop. */
export const ShopSchema = z.object({
  name: z.string().trim().min(1, 'Give the shop a name.').max(80, 'Keep the name under 80 characters.'),
  country: CountrySchema,
  currency: CurrencySchema,
  timeZone: TimeZoneSchema,
  pricesIncludeTax: z.boolean(),
  contactEmail: EmailSchema,
  mode: ModeSchema,
  code: OwnCodeSchema.optional().describe('Code on every page of the shop'),
});

export type Shop = z.infer<typeof ShopSchema>;

/** Name of a country in plain words, for example `Portugal` for `PT`. */
export function countryName(code: string, locale = 'en'): string {
  return new Intl.DisplayNames([locale], { type: 'region' }).of(code) ?? code;
}
