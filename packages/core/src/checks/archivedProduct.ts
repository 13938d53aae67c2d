import { stepKindOf } from '../funnel';
import type { Check } from './check';

export const archivedProduct: Check = {
  check: 'archived-product',
  severity: 'blocking',
  find: ({ step, product }) => (stepKindOf(step.kind).sells && product?.archivedAt ? [`“${product.name}” is archived and cannot be sold.`] : []),
};
