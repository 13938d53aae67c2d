import { z } from 'zod';
import { ConditionSchema } from './condition';

/** A condition to be tried on those who have bought. */
export const TriedConditionSchema = z.object({ condition: ConditionSchema });

/** For how many of the buyers of the last 90 days a condition would have held, by what was known of each when they bought. */
export const MatchesSchema = z.object({
  buyers: z.int(),
  matched: z.int(),
  unknown: z.int().describe('Of whom too little is known to say'),
  capped: z.boolean().describe('There were more; only the latest were looked at'),
});
export type Matches = z.infer<typeof MatchesSchema>;
