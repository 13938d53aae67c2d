import { z } from 'zod';
import type { EventKind } from '../tracking';

/** How a visitor can leave a step. */
export const OutcomeSchema = z.enum(['next', 'submitted', 'paid', 'accepted', 'declined', 'closed']);
export type Outcome = z.infer<typeof OutcomeSchema>;

/** The bands of the map, in order. */
export const BANDS = ['Arrive', 'Decide', 'Pay', 'Add', 'Receive'] as const;

/**
 * What is known of one kind of step. A further kind is one more file in `kinds` with one of these, and its name in the
 * tuple of `stepKinds.ts`.
 */
export interface StepKindRecord<Kind extends string> {
  kind: Kind;
  /** Its name as people see it. */
  name: string;
  band: (typeof BANDS)[number];
  /** The outcome that is its goal, the event that says so, and the word for it in figures. */
  goal: { outcome: Outcome; event: EventKind | null; reached: string };
  /** Somebody who comes here is asked to pay: its offers must be on sale. */
  sells: boolean;
}

export const stepKindRecord = <const Kind extends string>(record: StepKindRecord<Kind>) => record;
