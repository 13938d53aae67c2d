import { z } from 'zod';
import { ChangesSchema, FunnelViewSchema } from '../funnel';
import { ProblemSchema } from './check';

/** What is wrong with a funnel, and what of it is not published yet: looked at anew after every change. */
export const FunnelStateSchema = z.object({ changes: ChangesSchema, problems: z.array(ProblemSchema) });
export type FunnelState = z.infer<typeof FunnelStateSchema>;

export const FunnelDetailSchema = FunnelViewSchema.extend(FunnelStateSchema.shape);
export type FunnelDetail = z.infer<typeof FunnelDetailSchema>;

/** What publishing would change for visitors, stop by stop, in words. */
export const StopDifferencesSchema = z.object({
  stepId: z.string(),
  isNew: z.boolean(),
  differences: z.array(z.object({ section: z.string().nullable(), what: z.string() })),
});
export type StopDifferences = z.infer<typeof StopDifferencesSchema>;
