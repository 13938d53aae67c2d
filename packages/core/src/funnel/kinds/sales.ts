import { stepKindRecord } from '../stepKind';

/** Makes the case for a product and leads to its checkout. */
export const sales = stepKindRecord({
  kind: 'sales',
  name: 'Sales page',
  band: 'Decide',
  goal: { outcome: 'next', event: 'step.left', reached: 'went on' },
  sells: null,
  isPublic: true,
  outcomes: ['next', 'closed'],
  needs: null,
});
