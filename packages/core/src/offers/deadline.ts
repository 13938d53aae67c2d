import { z } from 'zod';

/** Until when an offer stands, and what becomes of it then. */
export const DeadlineSchema = z.object({
  until: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('minutes'),
      minutes: z.int('Enter whole minutes.').min(1, 'Enter at least 1 minute.').max(43_200, 'Enter less than 30 days.'),
    }),
    z.object({ kind: z.literal('date'), at: z.int().describe('Unix time in milliseconds') }),
  ]),
  afterwards: z.enum(['gone', 'full-price']).default('gone').describe('Gone, or without its own discount'),
});
export type Deadline = z.infer<typeof DeadlineSchema>;
