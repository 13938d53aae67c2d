import { stepKindRecord } from '../stepKind';

/** Shows again what took place, and leads on to what it argued for. */
export const replay = stepKindRecord({
  kind: 'replay',
  name: 'Replay',
  band: 'Decide',
  goal: { outcome: 'next', event: 'step.left', reached: 'went on' },
  sells: null,
  isPublic: true,
  outcomes: ['next', 'closed'],
  needs: null,
});
