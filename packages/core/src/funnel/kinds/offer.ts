import { stepKindRecord } from '../stepKind';

/** An upsell or downsell after the first payment. Nothing says yes to one yet, so that no event is its goal. */
export const offer = stepKindRecord({
  kind: 'offer',
  name: 'Offer',
  band: 'Add',
  goal: { outcome: 'accepted', event: null, reached: 'said yes' },
  sells: false,
});
