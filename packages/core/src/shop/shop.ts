import { z } from 'zod';
import { AmountSchema, CurrencySchema } from '../money';
import { ConsentSettingsSchema } from './consent';
import { COUNTRY_CODES } from './countries';
import { LegalTextsSchema, SellerSchema } from './legalPages';
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

/** What selling costs beside ads, for the profit of a report. */
export const CostsSchema = z.object({
  feePercent: z.number().min(0).max(100).multipleOf(0.01, 'Write at most two decimals.').describe('Of each payment that was charged'),
  feeFixed: AmountSchema.describe('For each payment that was charged, minor units'),
  sendingPercent: z.number().min(0).max(1000).describe('What sending costs, of what buyers pay for it'),
  goods: z.record(z.string(), AmountSchema).describe('What one of an edition costs, by its id, minor units'),
});
export type Costs = z.infer<typeof CostsSchema>;
export const NO_COSTS: Costs = { feePercent: 0, feeFixed: 0, sendingPercent: 100, goods: {} };

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
  costs: CostsSchema.optional().describe('What selling costs, for profit'),
  seller: SellerSchema.optional().describe('Who sells, as the law asks to be told'),
  legal: LegalTextsSchema.optional().describe('The texts of the legal pages, in plain paragraphs with an empty line between them'),
  sellsToBusinesses: z.boolean().optional().describe('Order forms ask for a business tax number unless a form says otherwise'),
  whenRegisterSilent: z.enum(['charge', 'accept']).optional().describe('What is done while the register of tax numbers does not answer; charge without it'),
  consent: ConsentSettingsSchema.optional().describe('The question for consent; nobody is asked without it'),
});

export type Shop = z.infer<typeof ShopSchema>;

/** Name of a country in plain words, for example `Portugal` for `PT`. */
export function countryName(code: string, locale = 'en'): string {
  const names = namesIn.get(locale) ?? new Intl.DisplayNames([locale], { type: 'region' });
  namesIn.set(locale, names);
  return names.of(code) ?? code;
}
const namesIn = new Map<string, Intl.DisplayNames>();
