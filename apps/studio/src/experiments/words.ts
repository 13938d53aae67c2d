import type { ExperimentState, Goal, OutcomeOfRound } from '@ruta/core/experiments';

export const STATE_WORDS: Record<ExperimentState, string> = { planned: 'Planned', running: 'Running', ended: 'Ended' };

export const OUTCOME_WORDS: Record<OutcomeOfRound, string> = {
  winner: 'A winner',
  original: 'The original is better',
  undecided: 'Undecided',
  stopped: 'Ended by hand',
  changed: 'Changed',
  broken: 'An arm broke',
  'not-to-be-trusted': 'Not to be trusted',
};

/** What is counted of visitors, as the head of its column. */
export const REACHED_WORDS: Record<Goal, string> = { revenue: 'Bought', sales: 'Bought', leads: 'Left their address', next: 'Went on' };
