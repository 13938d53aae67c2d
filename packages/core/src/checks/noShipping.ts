import { sentEditions } from '../catalog';
import { stepKindOf } from '../funnel';
import type { Check } from './check';

export const noShipping: Check = {
  check: 'no-shipping',
  severity: 'blocking',
  find: ({ step, product, funnel }) =>
    stepKindOf(step.kind).sells && product && sentEditions(product, (id) => funnel.products[id]).length > 0 && funnel.shop.shippingTable.length === 0
      ? [`“${product.name}” has to be sent, but the shop has no shipping rates yet. Enter them under Settings.`]
      : [],
};
