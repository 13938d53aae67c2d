import { words } from '../elements';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { headlinePart, part, type SectionPlan } from '../sections';
import { type NamedProduct, pageOf, promiseOf } from './pageOf';

/** The page on which the product is paid for. */
export function checkoutPage(product: NamedProduct, newId: NewId): PageDocument {
  const order: SectionPlan = {
    name: 'Order',
    columns: [
      {
        span: 7,
        parts: [
          headlinePart(1, 'medium', words('Your order')),
          part('order-form', { consent: words('By paying you accept the terms. The receipt comes by e-mail.') }),
        ],
      },
      { span: 5, parts: [part('order-summary'), ...promiseOf(product)] },
    ],
  };
  return pageOf(`Checkout: ${product.name}`, '', false, [order], newId);
}
