import { stepKindRecord } from '../stepKind';

/** Thanks, receipt and files. */
export const thankYou = stepKindRecord({
  kind: 'thank-you',
  name: 'Thank you',
  band: 'Receive',
  goal: { outcome: 'next', event: 'file.fetched', reached: 'fetched files' },
  sells: null,
  isPublic: false,
  outcomes: [],
  needs: null,
});
