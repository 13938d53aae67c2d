import { z } from 'zod';
import { ConditionSchema } from '../conditions';

/** To whom a part of a page is shown: to those for whom a condition holds, or to all whom another part is not shown to. */
export const ShowSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('when'), condition: ConditionSchema }),
  z.object({ kind: z.literal('otherwise'), of: z.string().describe('Id of the part beside it') }),
]);
export type Show = z.infer<typeof ShowSchema>;
