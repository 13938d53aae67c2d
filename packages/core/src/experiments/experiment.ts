import { z } from 'zod';
import { ConditionSchema } from '../conditions';
import { type GraphOperation, GraphOperationSchema } from '../funnel';
import { idSchema } from '../ids';
import type { Operation } from '../page';

/** What a test wants more of. */
export const GoalSchema = z.enum(['revenue', 'sales', 'leads', 'next']);
export type Goal = z.infer<typeof GoalSchema>;

/** Goals as they are named on the screen. */
export const GOAL_WORDS: Record<Goal, string> = {
  revenue: 'Revenue per visitor, over the whole funnel',
  sales: 'Visitors who buy',
  leads: 'Visitors who leave their address',
  next: 'Visitors who go on from this stop',
};

/** What an arm changes of the funnel that it tests: nothing else is stored of it, so that whatever else changes is the same in all arms. */
export interface ArmChanges {
  /** Of the map and of what is sold, applied to the funnel's. */
  graph: GraphOperation[];
  /** Of pages, applied to each stop's own; a stop that only the arm has begins with the operation `replacePage`. */
  pages: Record<string, Operation[]>;
}

export const NO_CHANGES: ArmChanges = { graph: [], pages: {} };

/** Stored changes: operations of pages are kept as they were made, and are tried before they are believed. */
export const ArmChangesSchema = z.object({
  graph: z.array(GraphOperationSchema).default([]),
  pages: z.record(idSchema('step'), z.array(z.custom<Operation>((value) => typeof value === 'object' && value !== null && 'kind' in value))).default({}),
});

export const ArmNameSchema = z.string().trim().min(1, 'Give the arm a name.').max(60, 'Keep the name under 60 characters.');

/** A visitor's share of an arm, in whole percent. */
export const ShareSchema = z.int('Enter a whole number.').min(1, 'Give every arm at least 1 %.').max(99, 'At most 99 %.');

const ArmSettingsSchema = z.object({ id: idSchema('arm'), name: ArmNameSchema, share: ShareSchema });

export const MOST_ARMS = 6;

/** When a test ends by itself: as soon as it is decided, with a last day; or on that day only. */
export const EndsSchema = z.enum(['decision', 'date']);

/** What of a test can be set; the first arm is the original. */
export const ExperimentSettingsSchema = z
  .object({
    name: z.string().trim().min(1, 'Give the test a name.').max(80, 'Keep the name under 80 characters.'),
    question: z.string().trim().max(400, 'Keep it under 400 characters.').default('').describe('What it is to find out, and why'),
    goal: GoalSchema,
    change: z
      .number('Enter a number.')
      .refine((change) => Math.abs(change) >= 0.01, 'Hope for a difference of at least 1 %.')
      .refine((change) => change > -1 && change <= 10, 'Hope for something between a hundredth and ten times as much.')
      .describe('Hoped for, relative: 0.1 is a tenth more'),
    audience: ConditionSchema.nullable().default(null).describe('Only those for whom it holds are in the test; null for everybody'),
    ends: EndsSchema.default('decision'),
    lastDay: z.iso.date('Choose a day.').nullable().default(null).describe('In the shop’s time zone; it ends when this day is over'),
    arms: z.array(ArmSettingsSchema).min(2, 'A test has at least two arms.').max(MOST_ARMS, `A test has at most ${MOST_ARMS} arms.`),
  })
  .superRefine(({ arms }, context) => {
    const sum = arms.reduce((total, { share }) => total + share, 0);
    if (sum !== 100) context.addIssue({ code: 'custom', path: ['arms'], message: `The shares come to ${sum} %. Together they have to be 100 %.` });
    const names = arms.map(({ name }) => name.toLowerCase());
    names.forEach((name, index) => {
      if (names.indexOf(name) < index) context.addIssue({ code: 'custom', path: ['arms', index, 'name'], message: 'Another arm has this name.' });
    });
  });
export type ExperimentSettings = z.infer<typeof ExperimentSettingsSchema>;

export const ExperimentStateSchema = z.enum(['planned', 'running', 'ended']);
export type ExperimentState = z.infer<typeof ExperimentStateSchema>;

/** In which arm of which round of a test something happened. */
export const ArmTagSchema = z.object({ roundId: idSchema('round'), armId: idSchema('arm') });
export type ArmTag = z.infer<typeof ArmTagSchema>;
