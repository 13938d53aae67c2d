import { stepKindOf } from '../funnel';
import type { Check } from './check';

export const switchedOffProduct: Check = {
  check: 'switched-off-product',
  severity: 'warning',
  find: ({ step, product, funnel }) => {
    if (!stepKindOf(step.kind).sells || !product) return [];
    if (product.status === 'off') return [`“${product.name}” is switched off, so nobody can buy it.`];
    return product.status === 'test' && funnel.shop.settings.mode === 'live' ? [`“${product.name}” is on test, so nobody can buy it in live mode.`] : [];
  },
};
