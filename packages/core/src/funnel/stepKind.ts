import { z } from 'zod';
import type { ElementType } from '../elements';
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
  /** What is sold to somebody who comes here: the order itself, something added to it by one click, or nothing. */
  sells: 'order' | 'addition' | null;
  /** Whether its address can be passed on to others, as a first page can; a page that belongs to one order cannot. */
  isPublic: boolean;
  /** The ways on from it that a route can be drawn for, the one people hope for first. */
  outcomes: readonly [Outcome, ...Outcome[]] | readonly [];
  /** The element its page cannot do without, and what is said where it is missing. */
  needs: { element: ElementType; missing: string } | null;
}

export const stepKindRecord = <const Kind extends string>(record: StepKindRecord<Kind>) => record;
