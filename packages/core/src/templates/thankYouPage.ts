import { words } from '../elements';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { headlinePart, one, part, type SectionPlan, textPart } from '../sections';
import { type NamedProduct, pageOf } from './pageOf';

/** The page a buyer sees after paying: thanks, what was bought, the files. */
export function thankYouPage(product: NamedProduct, newId: NewId): PageDocument {
  const thanks: SectionPlan = {
    name: 'Thanks',
    ground: 'dark',
    space: 'normal',
    align: 'center',
    columns: one(
      headlinePart(1, 'large', words('Thank you, ', { bound: 'buyer.firstName', fallback: 'and welcome' })),
      textPart('lead', words('Your order ', { bound: 'order.number', fallback: '' }, ' is complete. A receipt is on its way by e-mail.')),
    ),
  };
  const goods: SectionPlan = { name: 'Your things', width: 'narrow', columns: one(part('downloads'), part('receipt')) };
  return pageOf(`Thank you: ${product.name}`, '', false, [thanks, goods], newId);
}
