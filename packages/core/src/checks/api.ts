import { z } from 'zod';
import { ArmViewSchema, ExperimentStateSchema } from '../experiments';
import { ChangesSchema, FunnelViewSchema } from '../funnel';
import { ProblemSchema } from './check';

/** The arm of a split test as which a funnel is opened: everything in it is as visitors of this arm see it. */
export const OpenArmSchema = z.object({
  id: z.string(),
  name: z.string(),
  experiment: z.object({ id: z.string(), name: z.string(), state: ExperimentStateSchema }),
  funnelId: z.string().describe('The funnel itself'),
  differences: ArmViewSchema.shape.differences,
  problem: z.string().nullable().describe('Why it is shown as the original: what it changes is not there any more'),
});
export type OpenArm = z.infer<typeof OpenArmSchema>;

/** What is wrong with a funnel, and what of it is not published yet: looked at anew after every change. */
export const FunnelStateSchema = z.object({
  changes: ChangesSchema,
  problems: z.array(ProblemSchema),
  arm: OpenArmSchema.nullable(),
});
export type FunnelState = z.infer<typeof FunnelStateSchema>;

/** A split test that a stop is part of. */
export const StopTestSchema = z.object({
  experimentId: z.string(),
  name: z.string(),
  state: ExperimentStateSchema,
  stepIds: z.array(z.string()),
  routeIds: z.array(z.string()).describe('Routes that lead elsewhere in one of its arms'),
});

export const FunnelDetailSchema = FunnelViewSchema.extend(FunnelStateSchema.shape).extend({
  tests: z.array(StopTestSchema).describe('Those that are planned or running'),
});
export type FunnelDetail = z.infer<typeof FunnelDetailSchema>;

/** What publishing would change for visitors, stop by stop, in words. */
export const StopDifferencesSchema = z.object({
  stepId: z.string(),
  isNew: z.boolean(),
  differences: z.array(z.object({ section: z.string().nullable(), what: z.string() })),
});
export type StopDifferences = z.infer<typeof StopDifferencesSchema>;
