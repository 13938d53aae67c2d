import { stepKindRecord } from '../stepKind';

/** Visitors sign up for something that takes place later. */
export const registration = stepKindRecord({
  kind: 'registration',
  name: 'Registration',
  band: 'Arrive',
  goal: { outcome: 'submitted', event: 'lead.submitted', reached: 'signed up' },
  sells: null,
  isPublic: true,
  outcomes: ['submitted', 'closed'],
  needs: { element: 'form', missing: 'This page has no form, so nobody can sign up.' },
});
