import { words } from '../elements';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { headlinePart, one, part, type SectionPlan, textPart } from '../sections';
import { type NamedProduct, pageOf } from './pageOf';

/** The page that makes an offer after the payment: a short case, a picture, yes and no. */
export function offerPage(product: NamedProduct, newId: NewId): PageDocument {
  const opening: SectionPlan = {
    name: 'Offer',
    space: 'normal',
    columns: [
      {
        span: 7,
        parts: [
          textPart('eyebrow', words('Your order is paid. One thing more:')),
          headlinePart(1, 'large', words('Add ', { bound: 'product.name' })),
          textPart('lead', words({ bound: 'product.description' })),
          part('offers'),
        ],
      },
      { span: 5, parts: [part('picture', { source: { kind: 'product' }, alt: product.name })] },
    ],
  };
  const inside: SectionPlan = {
    name: 'What is in it',
    ground: 'tint',
    width: 'narrow',
    columns: one(headlinePart(2, 'medium', words('What is in it')), part('product', { shows: ['included', 'policy'] })),
  };
  return pageOf(`Also: ${product.name}`, '', false, product.included && product.included.length > 0 ? [opening, inside] : [opening], newId);
}
