import { stepKindOf } from '../funnel';
import type { Check } from './check';

export const nothingSold: Check = {
  check: 'nothing-sold',
  severity: 'blocking',
  find: ({ step, product }) => (stepKindOf(step.kind).sells && !product ? ['Nothing is sold here yet. Choose a product for this stop.'] : []),
};
