import { stepKindRecord } from '../stepKind';

/** Says that something has closed, and leads on to something else. */
export const closed = stepKindRecord({
  kind: 'closed',
  name: 'Closed page',
  band: 'Decide',
  goal: { outcome: 'next', event: 'step.left', reached: 'went on' },
  sells: null,
  isPublic: false,
  outcomes: ['next'],
  needs: null,
});
