import type { Product } from '../catalog';
import type { NewId } from '../ids';
import type { Column, ElementOf, ElementType, PageDocument, PageElement, Section, Words } from '../page';
import { words } from '../page';

type Part = { [T in ElementType]: Omit<ElementOf<T>, 'id'> }[ElementType];
type NamedProduct = Pick<Product, 'name' | 'pictureIds'> & Partial<Pick<Product, 'kind' | 'included'>>;

interface SectionPlan {
  name: string;
  ground?: Section['ground'];
  space?: Section['space'];
  align?: Section['align'];
  width?: Section['width'];
  columns: Array<{ span: number; parts: Part[] }>;
}

/** Makes a section from a plan, with fresh ids. */
export function buildSection(plan: SectionPlan, newId: NewId): Section {
  return {
    id: newId('section'),
    name: plan.name,
    ground: plan.ground ?? 'plain',
    space: plan.space ?? 'normal',
    align: plan.align ?? 'start',
    width: plan.width ?? 'normal',
    backdropId: null,
    columns: plan.columns.map(
      ({ span, parts }): Column => ({ id: newId('column'), span, elements: parts.map((part) => ({ id: newId('element'), ...part }) as PageElement) }),
    ),
  };
}

/** A part of a plan by its type. */
const part = <T extends ElementType>(type: T, fields: Omit<ElementOf<T>, 'id' | 'type'>) => ({ type, ...fields }) as Part;

const one = (...parts: Part[]) => [{ span: 12, parts }];
const headline = (level: 1 | 2 | 3, size: 'large' | 'medium' | 'small', content: Words): Part => ({ type: 'headline', level, size, words: content });
const text = (style: ElementOf<'text'>['style'], content: Words): Part => ({ type: 'text', style, words: content });

const header = (): SectionPlan => ({ name: 'Header', ground: 'dark', space: 'tight', columns: one({ type: 'logo' }) });

const footer = (): SectionPlan => ({
  name: 'Footer',
  ground: 'tint',
  space: 'tight',
  align: 'center',
  columns: one(text('small', words({ bound: 'shop.name' }, ' · Questions? Write to ', { bound: 'shop.email' }))),
});

const guarantee = (): Part => ({
  type: 'guarantee',
  title: words('Not for you?'),
  words: words('Write to ', { bound: 'shop.email' }, ' within 14 days and the money is back.'),
});

function pageOf(title: string, description: string, indexed: boolean, plans: SectionPlan[], newId: NewId): PageDocument {
  return { version: 1, title, description, indexed, sections: plans.map((plan) => buildSection(plan, newId)) };
}

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
          text('eyebrow', words('Free')),
          headline(1, 'large', words({ bound: 'product.name' })),
          text('lead', words({ bound: 'product.description' })),
          part('form', {
            fields: [
              { key: 'firstName', label: 'First name', kind: 'text', required: true },
              { key: 'email', label: 'E-mail', kind: 'email', required: true },
            ],
            button: words('Send it to me'),
            note: words('You can leave the list with one click, at any time.'),
          }),
        ],
      },
      { span: 5, parts: [{ type: 'picture', source: gift.pictureIds.length > 0 ? { kind: 'product' } : null, alt: gift.name, shape: 'natural' }] },
    ],
  };
  const inside: SectionPlan = {
    name: 'What is inside',
    align: 'center',
    columns: one(headline(2, 'medium', words('What you receive')), {
      type: 'list',
      marker: 'check',
      items: [words({ bound: 'product.name' }), words('By e-mail, within a minute'), words('Yours to keep')],
    }),
  };
  return pageOf(gift.name, `Free: ${gift.name}. Leave your address and it is yours.`, true, [header(), opening, inside, footer()], newId);
}

/** The page that makes the case for a product and leads to its checkout. */
export function salesPage(product: NamedProduct, newId: NewId): PageDocument {
  const buy: Part = { type: 'button', style: 'main', words: words('Get ', { bound: 'product.name' }), action: { kind: 'next' } };
  const opening: SectionPlan = {
    name: 'Opening',
    ground: 'dark',
    space: 'wide',
    columns: [
      { span: 7, parts: [headline(1, 'large', words({ bound: 'product.name' })), text('lead', words({ bound: 'product.description' })), buy] },
      { span: 5, parts: [{ type: 'picture', source: product.pictureIds.length > 0 ? { kind: 'product' } : null, alt: product.name, shape: 'natural' }] },
    ],
  };
  const benefits: SectionPlan = {
    name: 'What you get',
    columns: one(
      headline(2, 'medium', words('What you get')),
      product.included && product.included.length > 0
        ? { type: 'product', shows: ['included'] }
        : {
            type: 'list',
            marker: 'check',
            items: [words('Say the first thing that changes for the buyer'), words('Say the second, in their words'), words('Say what is included')],
          },
    ),
  };
  const price: SectionPlan = {
    name: 'Price',
    ground: 'tint',
    align: 'center',
    width: 'narrow',
    columns: one(
      headline(2, 'medium', words({ bound: 'product.name' })),
      { type: 'price', note: words('You see the whole sum before you pay.') },
      buy,
      guarantee(),
    ),
  };
  const questions: SectionPlan = {
    name: 'Questions',
    width: 'narrow',
    columns: one(headline(2, 'medium', words('Questions')), {
      type: 'faq',
      items: [
        {
          question: 'When do I receive it?',
          answer:
            product.kind === undefined || product.kind === 'digital'
              ? words('At once: the link is on the next page and in your mail.')
              : words('Say here when it is sent, or when you begin.'),
        },
        { question: 'What if I do not like it?', answer: words('Write to ', { bound: 'shop.email' }, ' within 14 days and the money is back.') },
      ],
    }),
  };
  return pageOf(product.name, product.name, true, [header(), opening, benefits, price, questions, footer()], newId);
}

/** The page on which the product is paid for. */
export function checkoutPage(product: NamedProduct, newId: NewId): PageDocument {
  const order: SectionPlan = {
    name: 'Order',
    columns: [
      {
        span: 7,
        parts: [
          headline(1, 'medium', words('Your order')),
          {
            type: 'order-form',
            button: words('Pay ', { bound: 'order.total' }),
            consent: words('By paying you accept the terms. The receipt comes by e-mail.'),
            askLastName: false,
            askCountry: true,
          },
        ],
      },
      { span: 5, parts: [{ type: 'order-summary', title: words('In your order') }, guarantee()] },
    ],
  };
  return pageOf(`Checkout: ${product.name}`, '', false, [header(), order, footer()], newId);
}

/** The page a buyer sees after paying: thanks, what was bought, the files. */
export function thankYouPage(product: NamedProduct, newId: NewId): PageDocument {
  const thanks: SectionPlan = {
    name: 'Thanks',
    ground: 'dark',
    space: 'normal',
    align: 'center',
    columns: one(
      headline(1, 'large', words('Thank you, ', { bound: 'buyer.firstName', fallback: 'and welcome' })),
      text('lead', words('Your order ', { bound: 'order.number', fallback: '' }, ' is complete. A receipt is on its way by e-mail.')),
    ),
  };
  const goods: SectionPlan = {
    name: 'Your things',
    width: 'narrow',
    columns: one({ type: 'downloads', title: words('Your downloads') }, { type: 'receipt', title: words('What you bought') }),
  };
  return pageOf(`Thank you: ${product.name}`, '', false, [header(), thanks, goods, footer()], newId);
}

/** Ready sections that can be added to any page, by purpose. */
export const SECTION_LIBRARY = {
  opening: {
    name: 'Opening',
    plan: (): SectionPlan => ({
      name: 'Opening',
      ground: 'dark',
      space: 'wide',
      columns: [
        {
          span: 7,
          parts: [
            headline(2, 'large', words('Say what changes for your reader')),
            text('lead', words('One sentence on how.')),
            { type: 'button', style: 'main', words: words('Go on'), action: { kind: 'next' } },
          ],
        },
        { span: 5, parts: [{ type: 'picture', source: null, alt: '', shape: 'natural' }] },
      ],
    }),
  },
  words: {
    name: 'Words',
    plan: (): SectionPlan => ({
      name: 'Words',
      width: 'narrow',
      columns: one(headline(2, 'medium', words('A headline')), text('body', words('A paragraph that tells the story.'))),
    }),
  },
  benefits: {
    name: 'Three reasons',
    plan: (): SectionPlan => ({
      name: 'Three reasons',
      columns: ['First', 'Second', 'Third'].map((name) => ({
        span: 4,
        parts: [headline(3, 'small', words(`${name} reason`)), text('body', words('Why it matters, in a sentence or two.'))],
      })),
    }),
  },
  proof: {
    name: 'From readers',
    plan: (): SectionPlan => ({
      name: 'From readers',
      ground: 'tint',
      columns: [1, 2].map(() => ({ span: 6, parts: [{ type: 'testimonial', words: words('What a buyer wrote.'), name: 'Name', detail: 'Town' }] })),
    }),
  },
  price: {
    name: 'Price',
    plan: (): SectionPlan => ({
      name: 'Price',
      ground: 'tint',
      align: 'center',
      width: 'narrow',
      columns: one(
        headline(2, 'medium', words({ bound: 'product.name' })),
        { type: 'price', note: words('You see the whole sum before you pay.') },
        { type: 'button', style: 'main', words: words('Go on'), action: { kind: 'next' } },
      ),
    }),
  },
  questions: {
    name: 'Questions',
    plan: (): SectionPlan => ({
      name: 'Questions',
      width: 'narrow',
      columns: one(headline(2, 'medium', words('Questions')), {
        type: 'faq',
        items: [{ question: 'A question people ask', answer: words('A short, honest answer.') }],
      }),
    }),
  },
  guarantee: { name: 'Guarantee', plan: (): SectionPlan => ({ name: 'Guarantee', width: 'narrow', columns: one(guarantee()) }) },
  footer: { name: 'Footer', plan: footer },
} as const;

/** A new element of a type with words to start from. */
export function newElement(type: ElementType, newId: NewId): PageElement {
  const id = newId('element');
  switch (type) {
    case 'headline':
      return { id, type, level: 2, size: 'medium', words: words('A headline') };
    case 'text':
      return { id, type, style: 'body', words: words('Some words.') };
    case 'picture':
      return { id, type, source: null, alt: '', shape: 'natural' };
    case 'button':
      return { id, type, style: 'main', words: words('Go on'), action: { kind: 'next' } };
    case 'list':
      return { id, type, marker: 'check', items: [words('First'), words('Second')] };
    case 'testimonial':
      return { id, type, words: words('What a buyer wrote.'), name: 'Name', detail: 'Town' };
    case 'faq':
      return { id, type, items: [{ question: 'A question people ask', answer: words('A short, honest answer.') }] };
    case 'product':
      return { id, type, shows: ['description', 'included'] };
    case 'price':
      return { id, type, note: words('You see the whole sum before you pay.') };
    case 'form':
      return {
        id,
        type,
        fields: [
          { key: 'firstName', label: 'First name', kind: 'text', required: true },
          { key: 'email', label: 'E-mail', kind: 'email', required: true },
        ],
        button: words('Send'),
        note: [],
      };
    case 'order-form':
      return {
        id,
        type,
        button: words('Pay ', { bound: 'order.total' }),
        consent: words('By paying you accept the terms.'),
        askLastName: false,
        askCountry: true,
      };
    case 'order-summary':
      return { id, type, title: words('In your order') };
    case 'receipt':
      return { id, type, title: words('What you bought') };
    case 'downloads':
      return { id, type, title: words('Your downloads') };
    case 'guarantee':
      return { id, ...guarantee() } as PageElement;
    case 'spacer':
      return { id, type, size: 'medium' };
    case 'logo':
    case 'divider':
      return { id, type };
  }
}
