import { z } from 'zod';
import { AmountSchema } from '../money';
import { PriceHistorySchema } from './priceHistory';

/** A sale price, between two moments; a missing bound is open. Start included, end excluded. */
export const SaleSchema = z
  .object({
    amount: AmountSchema,
    from: z.int().optional().describe('Unix time in milliseconds'),
    until: z.int().optional().describe('Unix time in milliseconds'),
  })
  .refine((sale) => sale.from === undefined || sale.until === undefined || sale.from < sale.until, {
    message: 'The sale must end after it starts.',
    path: ['until'],
  });
export type Sale = z.infer<typeof SaleSchema>;

export const IntervalUnitSchema = z.enum(['day', 'week', 'month', 'year']);
export type IntervalUnit = z.infer<typeof IntervalUnitSchema>;

const LONGEST_YEARS = 5;
const UNITS_A_YEAR: Record<IntervalUnit, number> = { day: 366, week: 53, month: 12, year: 1 };

/** Every so many days, weeks, months or years. */
export const IntervalSchema = z
  .object({ every: z.int('Enter a whole number.').min(1, 'The interval is at least 1.'), unit: IntervalUnitSchema })
  .refine((interval) => interval.every <= UNITS_A_YEAR[interval.unit] * LONGEST_YEARS, {
    message: `Keep the interval under ${LONGEST_YEARS} years.`,
    path: ['every'],
  });
export type Interval = z.infer<typeof IntervalSchema>;

/** Days before the first full charge, with a price of their own; 0 is a free trial. */
export const TrialSchema = z.object({
  days: z.int('Enter whole days.').min(1, 'A trial lasts at least one day.').max(365, 'A trial lasts at most 365 days.'),
  price: AmountSchema.default(0),
});

const saleBelowRegular = {
  check: (price: { regular: number; sale?: Sale | undefined }) => !price.sale || price.sale.amount < price.regular,
  error: { message: 'The sale price must be below the regular price.', path: ['sale', 'amount'] },
};
const RegularSchema = AmountSchema.min(1, 'Enter a price above zero, or choose “Free”.');

const OneTimePriceSchema = z
  .object({ kind: z.literal('one-time'), regular: RegularSchema, sale: SaleSchema.optional(), history: PriceHistorySchema.optional() })
  .refine(saleBelowRegular.check, saleBelowRegular.error);

const SubscriptionPriceSchema = z
  .object({
    kind: z.literal('subscription'),
    regular: RegularSchema.describe('One period, minor units'),
    sale: SaleSchema.optional().describe('What each period costs for those who buy during the sale'),
    history: PriceHistorySchema.optional(),
    interval: IntervalSchema,
    trial: TrialSchema.optional(),
    setUpFee: AmountSchema.optional().describe('Once, today, minor units'),
    charges: z
      .int('Enter a whole number.')
      .min(1, 'A plan has at least one charge.')
      .max(600, 'Keep the plan under 600 charges.')
      .nullable()
      .default(null)
      .describe('Full charges until the plan ends, trials not counted; null is endless'),
  })
  .refine(saleBelowRegular.check, saleBelowRegular.error);

const InstalmentsPriceSchema = z
  .object({
    kind: z.literal('instalments'),
    regular: RegularSchema.describe('All instalments together, minor units; the number times the amount where the amount each was typed'),
    sale: SaleSchema.optional().describe('All instalments together during the sale'),
    history: PriceHistorySchema.optional(),
    count: z.int('Enter a whole number.').min(2, 'Instalments are at least 2; for one payment choose “One-time”.').max(60, 'Keep it to 60 instalments.'),
    interval: IntervalSchema,
  })
  .refine(saleBelowRegular.check, saleBelowRegular.error)
  .refine((price) => Math.min(price.regular, price.sale?.amount ?? price.regular) >= price.count, {
    message: 'Each instalment must be above zero.',
    path: ['regular'],
  });

const ChosenPriceSchema = z
  .object({
    kind: z.literal('pay-what-you-want'),
    minimum: AmountSchema.describe('May be 0: a tip'),
    suggested: AmountSchema,
    maximum: AmountSchema.optional(),
  })
  .refine((price) => price.suggested >= price.minimum, { message: 'The suggested amount must not be under the minimum.', path: ['suggested'] })
  .refine((price) => price.maximum === undefined || price.maximum >= price.suggested, {
    message: 'The maximum must not be under the suggested amount.',
    path: ['maximum'],
  });

/** What a product costs and when. Amounts in minor units of the shop's currency. */
export const PriceSchema = z.discriminatedUnion('kind', [
  OneTimePriceSchema,
  SubscriptionPriceSchema,
  InstalmentsPriceSchema,
  ChosenPriceSchema,
  z.object({ kind: z.literal('free') }),
]);
export type Price = z.infer<typeof PriceSchema>;
export type PriceKind = Price['kind'];
