import { isFree } from '../catalog';
import { stepKindOf } from '../funnel';
import type { Check } from './check';

export const noPayment: Check = {
  check: 'no-payment',
  severity: 'warning',
  find: ({ step, product, funnel }) =>
    stepKindOf(step.kind).sells && product && !isFree(product) && !funnel.takesCards
      ? ['No card processor is connected, so nobody can pay. Connect one under Connections.']
      : [],
};
