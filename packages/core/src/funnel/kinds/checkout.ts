import { stepKindRecord } from '../stepKind';

/** Takes the payment. */
export const checkout = stepKindRecord({
  kind: 'checkout',
  name: 'Checkout',
  band: 'Pay',
  goal: { outcome: 'paid', event: 'order.paid', reached: 'paid' },
  sells: 'order',
  isPublic: true,
  outcomes: ['paid', 'closed'],
  needs: { element: 'order-form', missing: 'This checkout has no order form, so nobody can pay.' },
});
