import { z } from 'zod';
import type { EventKind } from '../tracking';
import { checkout } from './kinds/checkout';
import { closed } from './kinds/closed';
import { confirmation } from './kinds/confirmation';
import { offer } from './kinds/offer';
import { optIn } from './kinds/optIn';
import { registration } from './kinds/registration';
import { replay } from './kinds/replay';
import { sales } from './kinds/sales';
import { thankYou } from './kinds/thankYou';
import { waitingList } from './kinds/waitingList';
import type { StepKindRecord } from './stepKind';

/** Every kind of step, in the order in which people pass them. */
export const STEP_KINDS = [optIn, registration, confirmation, sales, replay, waitingList, closed, checkout, offer, thankYou] as const;
export type StepKind = (typeof STEP_KINDS)[number]['kind'];
export const StepKindSchema = z.enum(STEP_KINDS.map(({ kind }) => kind) as [StepKind, ...StepKind[]]);

const byKind = Object.fromEntries(STEP_KINDS.map((record) => [record.kind, record])) as { [Kind in StepKind]: StepKindRecord<Kind> };

/** What is known of a kind of step. */
export const stepKindOf = (kind: StepKind): StepKindRecord<StepKind> => byKind[kind];

/** Whether an event is the goal of a step of this kind: form sent, went on, paid; on a thank-you page, files fetched. */
export function isGoal(kind: StepKind, event: EventKind): boolean {
  return byKind[kind].goal.event === event;
}
