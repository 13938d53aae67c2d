import { z } from 'zod';
import { CurrencySchema } from '../money';

/** Money that a processor took and that is known to no order here: most likely paid after a backup that was put back since. */
export const UnknownChargeSchema = z.object({
  id: z.string(),
  provider: z.string(),
  providerChargeId: z.string(),
  amount: z.int().describe('What of it is not refunded, minor units'),
  currency: CurrencySchema,
  cardLast4: z.string().nullable(),
  foundAt: z.int().describe('Unix time in milliseconds'),
});
export type UnknownCharge = z.infer<typeof UnknownChargeSchema>;
export const UnknownChargesSchema = z.array(UnknownChargeSchema);
