import type { Outcome } from './stepKind';

/** What somebody has done who leaves a stop along an outcome, as it stands on the map's lines. */
export const OUTCOME_WORDS: Record<Outcome, string> = {
  next: 'went on',
  submitted: 'form sent',
  paid: 'paid',
  accepted: 'yes',
  declined: 'no thanks',
  closed: 'closed',
};
