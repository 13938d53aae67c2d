import { placeholder, words } from '../elements';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { headlinePart, one, part, type SectionPlan, textPart } from '../sections';
import { type NamedProduct, pageOf, promiseOf } from './pageOf';

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
            items: [
              placeholder('Say the first thing that changes for the buyer'),
              placeholder('Say the second, in their words'),
              placeholder('Say what is included'),
            ],
          }),
    ),
  };
  const price: SectionPlan = {
    name: 'Price',
    ground: 'tint',
    align: 'center',
    width: 'narrow',
    columns: one(headlinePart(2, 'medium', words({ bound: 'product.name' })), part('price'), buy, ...promiseOf(product)),
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
            answer: isDigital ? words('At once: the link is on the next page and in your mail.') : placeholder('Say here when it is sent, or when you begin.'),
          },
        ],
      }),
    ),
  };
  return pageOf(product.name, product.name, true, [opening, benefits, price, questions], newId);
}
