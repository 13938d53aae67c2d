import { z } from 'zod';
import { CommissionPercentSchema, RateRulesSchema } from './rate';

const DAYS = 'Enter a whole number of days.';

/** On what terms partners of a shop earn. */
export const ProgramSchema = z.object({
  rules: RateRulesSchema.describe('What is paid for what; nothing is paid for what none fits'),
  secondTierPercent: CommissionPercentSchema.default(0).describe('Of the same sale, for whoever recruited the partner'),
  bumps: z.boolean().default(true).describe('Order bumps earn too'),
  upsells: z.boolean().default(true).describe('What is added after the payment earns too'),
  laterCharges: z.boolean().default(true).describe('Instalments and renewals earn too'),
  holdingDays: z.int(DAYS).min(0, DAYS).max(365, 'A year is the longest.').default(30).describe('So long a commission waits for refunds before it is paid out'),
  linkDays: z.int(DAYS).min(1, DAYS).max(400, '400 days are the longest that a browser keeps it.').default(60).describe('So long a visit by a link counts'),
});
export type Program = z.infer<typeof ProgramSchema>;

/** Of a shop that has not said anything yet: nobody earns. */
export const NO_PROGRAM: Program = ProgramSchema.parse({ rules: [] });
