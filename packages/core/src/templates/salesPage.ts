import { words } from '../elements';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { headlinePart, one, part, type SectionPlan, textPart } from '../sections';
import { type NamedProduct, pageOf } from './pageOf';

/** The page that makes the case for a product and leads to its checkout. */
export function salesPage(product: NamedProduct, newId: NewId): PageDocument {
  const buy = part('button', { words: words('Get ', { bound: 'product.name' }) });
  const opening: SectionPlan = {
    name: 'Opening',
    ground: 'dark',
    space: 'wide',
    columns: [
      { span: 7, parts: [headlinePart(1, 'large', words({ bound: 'product.name' })), textPart('lead', words({ bound: 'product.description' })), buy] },
      { span: 5, parts: [part('picture', { source: product.pictureIds.length > 0 ? { kind: 'product' } : null, alt: product.name })] },
    ],
  };
  const benefits: SectionPlan = {
    name: 'What you get',
    columns: one(
      headlinePart(2, 'medium', words('What you get')),
      product.included && product.included.length > 0
        ? part('product', { shows: ['included'] })
        : part('list', {
            items: [words('Say the first thing that changes for the buyer'), words('Say the second, in their words'), words('Say what is included')],
          }),
    ),
  };
  const price: SectionPlan = {
    name: 'Price',
    ground: 'tint',
    align: 'center',
    width: 'narrow',
    columns: one(headlinePart(2, 'medium', words({ bound: 'product.name' })), part('price'), buy, part('guarantee')),
  };
  const isDigital = product.kind === undefined || product.kind === 'digital';
  const questions: SectionPlan = {
    name: 'Questions',
    width: 'narrow',
    columns: one(
      headlinePart(2, 'medium', words('Questions')),
      part('faq', {
        items: [
          {
            question: 'When do I receive it?',
            answer: isDigital ? words('At once: the link is on the next page and in your mail.') : words('Say here when it is sent, or when you begin.'),
          },
          { question: 'What if I do not like it?', answer: words('Write to ', { bound: 'shop.email' }, ' within 14 days and the money is back.') },
        ],
      }),
    ),
  };
  return pageOf(product.name, product.name, true, [opening, benefits, price, questions], newId);
}
