import { natureOf } from '../catalog';
import type { Check } from './check';

export const nothingDelivered: Check = {
  check: 'nothing-delivered',
  severity: 'warning',
  find: ({ product }) => {
    if (!product || product.bundle.length > 0 || product.files.length > 0) return [];
    if (!product.editions.some((edition) => natureOf(product, edition).kind === 'digital')) return [];
    const { link, course, keys } = product.delivery;
    return link || course || keys ? [] : [`“${product.name}” is digital but has nothing to deliver: no file, link, course or key.`];
  },
};
