import { describe } from '@ruta/core/conditions';
import type { FactNames } from '@ruta/core/facts';
import { OUTCOME_WORDS, type Outcome, type Route } from '@ruta/core/funnel';

/** What somebody has done who leaves a stop along an outcome, as a question of the sheet. */
export const OUTCOME_QUESTIONS: Record<Outcome, string> = {
  next: 'Who goes on',
  submitted: 'Who sends the form',
  paid: 'Who has paid',
  accepted: 'On yes',
  declined: 'On no',
  closed: 'Where it is closed, sold out, or not for this buyer',
};

/** A route in words: its condition, or what was done. */
export function routeWords(route: Route, names: FactNames): string {
  return route.condition ? describe(route.condition, names) : OUTCOME_WORDS[route.outcome];
}
