import { z } from 'zod';
import { PictureInfoSchema } from '../catalog';
import { ConditionSchema } from '../conditions';
import { PageDocumentSchema } from '../page';
import { ArmNameSchema, EndsSchema, ExperimentStateSchema, GoalSchema } from './experiment';
import { BaselineSchema, PlannedSchema } from './planned';
import { ExperimentResultSchema } from './result';

/** How a round ended. */
export const OutcomeOfRoundSchema = z.enum(['winner', 'original', 'undecided', 'stopped', 'changed', 'broken', 'not-to-be-trusted']);
export type OutcomeOfRound = z.infer<typeof OutcomeOfRoundSchema>;

const CountSchema = z.object({ armId: z.string(), visitors: z.int(), converted: z.int(), revenue: z.int().describe('Net, minor units') });

/** What is to be watched beside the goal, so that a gain there is not paid for elsewhere. */
export const GuardSchema = z.object({
  armId: z.string(),
  orders: z.int(),
  orderValue: z.number().nullable().describe('Net revenue per order with what was added to it, minor units'),
  bumps: z.int().describe('Orders with an order bump'),
  additions: z.int().describe('Orders to which something was added after the payment'),
  refundedOrders: z.int(),
  refunded: z.int().describe('Net, minor units'),
  leads: z.int(),
});

/** One round of a test: from its start, or from a change, to the next change or the end. */
export const RoundSchema = z.object({
  id: z.string(),
  number: z.int(),
  startedAt: z.int(),
  endedAt: z.int().nullable(),
  outcome: OutcomeOfRoundSchema.nullable().describe('Null while it runs'),
  why: z.string().nullable().describe('In words, why it ended'),
  planned: z.object({ difference: z.number(), perArm: z.int(), visitors: z.int(), weeks: z.int().nullable() }),
  lastDay: z.string().nullable(),
  arms: z.array(z.object({ id: z.string(), name: z.string(), share: z.int() })),
  result: ExperimentResultSchema,
  guards: z.array(GuardSchema),
  days: z.array(z.object({ day: z.string(), arms: z.array(CountSchema) })),
  devices: z.array(z.object({ device: z.string(), arms: z.array(CountSchema) })),
});
export type Round = z.infer<typeof RoundSchema>;

export const ArmViewSchema = z.object({
  id: z.string(),
  name: z.string(),
  share: z.int(),
  isOriginal: z.boolean(),
  differences: z.array(z.object({ stepId: z.string(), stop: z.string(), what: z.string() })),
  problem: z.string().nullable().describe('Why it cannot be shown as it is'),
});

export const ExperimentViewSchema = z.object({
  id: z.string(),
  state: ExperimentStateSchema,
  funnel: z.object({ id: z.string(), name: z.string(), live: z.boolean() }),
  step: z.object({ id: z.string(), name: z.string(), address: z.string().nullable() }),
  name: z.string(),
  question: z.string(),
  goal: GoalSchema,
  change: z.number(),
  audience: ConditionSchema.nullable(),
  ends: EndsSchema,
  lastDay: z.string().nullable(),
  learned: z.string(),
  revision: z.string().describe('Stands for its settings as they are; for If-Match'),
  arms: z.array(ArmViewSchema),
  stops: z.array(z.object({ id: z.string(), name: z.string() })).describe('Whoever comes to one of them is in the test'),
  baseline: BaselineSchema,
  planned: PlannedSchema,
  hindrances: z.array(z.string()).describe('What keeps it from being started'),
  warnings: z.array(z.string()),
  hasChanges: z.boolean().describe('Its arms are not as they are shown: what was changed waits for a new round'),
  rounds: z.array(RoundSchema).describe('The latest first'),
  createdAt: z.int(),
  endedAt: z.int().nullable(),
});
export type ExperimentView = z.infer<typeof ExperimentViewSchema>;

/** A test begins with a stop and what it is to be tried on. */
export const NewExperimentSchema = z.object({
  funnelId: z.string(),
  stepId: z.string(),
  name: z.string().trim().min(1, 'Give the test a name.').max(80, 'Keep the name under 80 characters.'),
  goal: GoalSchema.optional().describe('What its stop is for, if it is missing'),
  armName: ArmNameSchema.default('B'),
});
export type NewExperiment = z.input<typeof NewExperimentSchema>;
export const CreatedExperimentSchema = z.object({ id: z.string(), armId: z.string() });

/** How a test is ended by a person. */
export const EndExperimentSchema = z.object({
  put: z.string().nullable().describe('The arm that takes the place; null for the original'),
});

/** The page of a test's first stop as each arm has it. */
export const ExperimentPicturesSchema = z.object({
  stepId: z.string(),
  arms: z.array(z.object({ id: z.string(), page: PageDocumentSchema })),
  pictures: z.record(z.string(), PictureInfoSchema),
});
export type ExperimentPictures = z.infer<typeof ExperimentPicturesSchema>;

export const LearnedSchema = z.object({ learned: z.string().trim().max(2000, 'Keep it under 2,000 characters.') });

/** Tests are few: they come as a whole, those that were found by a word of theirs. */
export const ExperimentListQuerySchema = z.object({ search: z.string().trim().max(200).default(''), funnelId: z.string().optional() });
export const ExperimentRowSchema = z.object({
  id: z.string(),
  name: z.string(),
  state: ExperimentStateSchema,
  funnel: z.object({ id: z.string(), name: z.string() }),
  step: z.object({ id: z.string(), name: z.string() }),
  goal: GoalSchema,
  visitors: z.int(),
  startedAt: z.int().nullable(),
  endedAt: z.int().nullable(),
  outcome: OutcomeOfRoundSchema.nullable(),
  verdict: z.enum(['go-on', 'winner', 'original-is-better', 'undecided', 'not-to-be-trusted']).nullable().describe('Of one that runs'),
  words: z.string().describe('How it stands, in a sentence'),
  learned: z.string(),
});
export type ExperimentRow = z.infer<typeof ExperimentRowSchema>;
