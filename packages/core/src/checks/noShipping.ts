import { isSent } from '../catalog';
import { stepKindOf } from '../funnel';
import type { Check } from './check';

export const noShipping: Check = {
  check: 'no-shipping',
  severity: 'blocking',
  find: ({ step, product, funnel }) =>
    stepKindOf(step.kind).sells && product && isSent(product, (id) => funnel.products[id]) && funnel.shop.shippingTable.length === 0
      ? [`“${product.name}” has to be sent, but the shop has no shipping rates yet. Enter them under Settings.`]
      : [],
};
