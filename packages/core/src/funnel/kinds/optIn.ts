import { stepKindRecord } from '../stepKind';

/** Visitors leave an address, often for a free gift. */
export const optIn = stepKindRecord({
  kind: 'opt-in',
  name: 'Opt-in',
  band: 'Arrive',
  goal: { outcome: 'submitted', event: 'lead.submitted', reached: 'left an address' },
  sells: null,
  isPublic: true,
  outcomes: ['submitted', 'closed'],
  needs: { element: 'form', missing: 'This page has no form, so nobody can leave an address.' },
});
