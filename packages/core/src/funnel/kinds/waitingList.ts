import { stepKindRecord } from '../stepKind';

/** For those who come when everything is gone: they leave an address and are told. */
export const waitingList = stepKindRecord({
  kind: 'waiting-list',
  name: 'Waiting list',
  band: 'Decide',
  goal: { outcome: 'submitted', event: 'lead.submitted', reached: 'asked to be told' },
  sells: null,
  isPublic: true,
  outcomes: ['submitted'],
  needs: { element: 'form', missing: 'This page has no form, so nobody can ask to be told.' },
});
