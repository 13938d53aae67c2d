import { z } from 'zod';
import { ChangesSchema, FunnelViewSchema } from '../funnel';
import { ProblemSchema } from './check';

/** What is wrong with a funnel, and what of it is not published yet: looked at anew after every change. */
export const FunnelStateSchema = z.object({ changes: ChangesSchema, problems: z.array(ProblemSchema) });
export type FunnelState = z.infer<typeof FunnelStateSchema>;

export const FunnelDetailSchema = FunnelViewSchema.extend(FunnelStateSchema.shape);
export type FunnelDetail = z.infer<typeof FunnelDetailSchema>;
