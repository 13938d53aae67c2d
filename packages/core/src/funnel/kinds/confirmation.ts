import { stepKindRecord } from '../stepKind';

/** Confirms a sign-up, and leads on to what it was for. */
export const confirmation = stepKindRecord({
  kind: 'confirmation',
  name: 'Confirmation',
  band: 'Decide',
  goal: { outcome: 'next', event: 'step.left', reached: 'went on' },
  sells: null,
  isPublic: false,
  outcomes: ['next'],
  needs: null,
});
