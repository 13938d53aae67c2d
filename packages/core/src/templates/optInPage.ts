import { words } from '../elements';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { headlinePart, one, part, type SectionPlan, textPart } from '../sections';
import { type NamedProduct, pageOf } from './pageOf';

/** The page on which visitors leave an address for a free gift. */
export function optInPage(gift: NamedProduct, newId: NewId): PageDocument {
  const opening: SectionPlan = {
    name: 'Opening',
    ground: 'dark',
    space: 'wide',
    columns: [
      {
        span: 7,
        parts: [
          textPart('eyebrow', words('Free')),
          headlinePart(1, 'large', words({ bound: 'product.name' })),
          textPart('lead', words({ bound: 'product.description' })),
          part('form', { button: words('Send it to me'), note: words('Questions? Write to ', { bound: 'shop.email' }, '.') }),
        ],
      },
      { span: 5, parts: [part('picture', { source: gift.pictureIds.length > 0 ? { kind: 'product' } : null, alt: gift.name })] },
    ],
  };
  const inside: SectionPlan = {
    name: 'What is inside',
    align: 'center',
    columns: one(
      headlinePart(2, 'medium', words('What you receive')),
      part('list', { items: [words({ bound: 'product.name' }), words('By e-mail, within a minute'), words('Yours to keep')] }),
    ),
  };
  return pageOf(gift.name, `Free: ${gift.name}. Leave your address and it is yours.`, true, [opening, inside], newId);
}
