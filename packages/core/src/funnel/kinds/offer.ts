import { stepKindRecord } from '../stepKind';

/** An upsell or downsell after the first payment. */
export const offer = stepKindRecord({
  kind: 'offer',
  name: 'Offer',
  band: 'Add',
  goal: { outcome: 'accepted', event: 'offer.taken', reached: 'said yes' },
  sells: 'addition',
  isPublic: false,
  outcomes: ['accepted', 'declined', 'closed'],
  needs: { element: 'offers', missing: 'This page has no yes and no, so nobody can take the offer.' },
});
