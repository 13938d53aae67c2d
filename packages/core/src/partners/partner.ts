import { z } from 'zod';
import { EmailSchema } from '../shop';
import { RateRulesSchema } from './rate';

/** How a partner is written in links: letters, digits and dashes, whatever the case. */
export const PartnerCodeSchema = z
  .string()
  .trim()
  .toLowerCase()
  .min(2, 'Use at least two letters.')
  .max(40, 'Keep it under 40 letters.')
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'Use letters, digits and single dashes.');

/** Somebody who brings buyers and gets a part of what they pay. */
export const PartnerSchema = z.object({
  name: z.string().trim().min(1, 'Give the partner a name.').max(80, 'Keep the name under 80 characters.'),
  email: EmailSchema,
  code: PartnerCodeSchema.describe('Stands for them in links'),
  isOn: z.boolean().default(true).describe('Sales that come by their links earn'),
  recruitedBy: z.string().max(40).nullable().default(null).describe('The partner who brought them: the second tier'),
  landingFunnelId: z.string().max(40).nullable().default(null).describe('Where their short link leads'),
  rules: RateRulesSchema.default([]).describe('Rates of their own, which come before the programme’s'),
});
export type Partner = z.infer<typeof PartnerSchema>;

/** The parameter of an address that says whose link it was. */
export const PARTNER_PARAMETER = 'partner';
