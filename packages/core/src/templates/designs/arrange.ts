import { type DrawingName, type ElementOf, placeholder as say, type Words, words } from '../../elements';
import { headlinePart, one, type Part, part, type SectionPlan, textPart } from '../../sections';
import { type NamedProduct, promiseOf } from '../pageOf';
import type { DesignWords } from './design';

const name: Words = words({ bound: 'product.name' });
const description: Words = words({ bound: 'product.description' });

/** The product's picture, or the drawing of the trade where it has none. */
export function shown(product: NamedProduct, drawing: DrawingName, shape: ElementOf<'picture'>['shape'] = 'natural'): Part {
  const isOwn = product.pictureIds.length > 0;
  return part('picture', { source: isOwn ? { kind: 'product' } : { kind: 'drawing', name: drawing }, alt: isOwn ? product.name : '', shape });
}

export const drawn = (drawing: DrawingName, more: Partial<ElementOf<'picture'>> = {}): Part =>
  part('picture', { source: { kind: 'drawing', name: drawing }, ...more });

const press = (label: string): Part => part('button', { words: words(label) });
const head = (text: string): Part => headlinePart(2, 'medium', words(text));

const twoColumns = (span: number, left: Part[], right: Part[], panel?: 'left' | 'right'): SectionPlan['columns'] => [
  { span, parts: left, ...(panel === 'left' ? { panel: 'sheet' as const } : {}) },
  { span: 12 - span, parts: right, ...(panel === 'right' ? { panel: 'sheet' as const } : {}) },
];

type Arrange = (product: NamedProduct, said: DesignWords, drawings: readonly [DrawingName, DrawingName, DrawingName]) => SectionPlan;

/** First screens. */
export const OPENINGS = {
  beside: (product, said, [first]) => ({
    name: 'Opening',
    space: 'wide',
    columns: twoColumns(
      7,
      [textPart('eyebrow', words(said.eyebrow)), headlinePart(1, 'large', name), textPart('lead', description), press(said.press)],
      [shown(product, first)],
    ),
    more: { place: 'center' },
  }),
  dark: (product, said, [first]) => ({
    name: 'Opening',
    ground: 'dark',
    space: 'wide',
    columns: twoColumns(
      6,
      [textPart('eyebrow', words(said.eyebrow)), headlinePart(1, 'large', name), textPart('lead', description), press(said.press)],
      [shown(product, first)],
    ),
    more: { place: 'center' },
  }),
  centred: (product, said, [first]) => ({
    name: 'Opening',
    ground: 'tint',
    space: 'wide',
    align: 'center',
    width: 'narrow',
    columns: one(
      textPart('eyebrow', words(said.eyebrow)),
      headlinePart(1, 'large', name),
      textPart('lead', description),
      press(said.press),
      shown(product, first),
    ),
    more: { overlap: true },
  }),
  panel: (product, said, [first]) => ({
    name: 'Opening',
    ground: 'tint',
    space: 'wide',
    columns: twoColumns(
      6,
      [shown(product, first)],
      [textPart('eyebrow', words(said.eyebrow)), headlinePart(1, 'large', name), textPart('lead', description), press(said.press)],
      'right',
    ),
    more: { place: 'center' },
  }),
  poster: (product, said, [first]) => ({
    name: 'Opening',
    ground: 'tint',
    space: 'wide',
    columns: twoColumns(8, [headlinePart(1, 'large', name), textPart('lead', description), press(said.press)], [shown(product, first)]),
    more: { place: 'end', tall: true },
  }),
} satisfies Record<string, Arrange>;

/** Sections that argue, each in a few arrangements. */
export const REASONS = {
  grid: (_product, said) => ({
    name: 'Reasons',
    ground: 'tint',
    columns: one(
      head(said.reasons),
      part('icon-list', {
        arrangement: 'grid',
        look: 'disc',
        items: said.reason.map(([icon, title, text]) => ({ icon, title: say(title), words: say(text) })),
      }),
    ),
  }),
  rows: (_product, said, [, second]) => ({
    name: 'Reasons',
    columns: twoColumns(
      5,
      [head(said.reasons), drawn(second)],
      [
        part('icon-list', {
          arrangement: 'rows',
          look: 'outline',
          items: said.reason.map(([icon, title, text]) => ({ icon, title: say(title), words: say(text) })),
        }),
      ],
    ),
    more: { place: 'center' },
  }),
  numbered: (_product, said) => ({
    name: 'Reasons',
    columns: twoColumns(4, [head(said.reasons)], [part('list', { marker: 'number', items: said.reason.map(([, title, text]) => say(`${title}. ${text}`)) })]),
  }),
  cards: (_product, said) => ({
    name: 'Reasons',
    ground: 'tint',
    columns: said.reason.map(([, title, text]) => ({
      span: 4,
      parts: [headlinePart(2, 'small', say(title)), textPart('body', say(text))],
      panel: 'sheet' as const,
    })),
    more: { place: 'stretch' },
  }),
} satisfies Record<string, Arrange>;

export const STORIES = {
  letter: (_product, said) => ({
    name: 'Story',
    ground: 'sheet',
    width: 'narrow',
    columns: one(head(said.story[0]), textPart('body', say(said.story[1])), textPart('body', say(said.story[2]))),
    more: { inset: true },
  }),
  beside: (_product, said, [, , third]) => ({
    name: 'Story',
    columns: twoColumns(6, [drawn(third)], [head(said.story[0]), textPart('body', say(said.story[1])), textPart('body', say(said.story[2]))]),
    more: { place: 'center' },
  }),
  dark: (_product, said) => ({
    name: 'Story',
    ground: 'dark',
    space: 'wide',
    width: 'narrow',
    columns: one(head(said.story[0]), textPart('lead', say(said.story[1])), textPart('body', say(said.story[2]))),
    more: { pattern: 'waves' },
  }),
} satisfies Record<string, Arrange>;

export const WAYS = {
  row: (_product, said) => ({
    name: 'How it goes',
    columns: one(head(said.way), part('steps', { arrangement: 'row', items: said.step.map(([title, text]) => ({ title: say(title), words: say(text) })) })),
  }),
  column: (_product, said) => ({
    name: 'How it goes',
    ground: 'sheet',
    columns: twoColumns(
      5,
      [head(said.way)],
      [part('steps', { arrangement: 'column', items: said.step.map(([title, text]) => ({ title: say(title), words: say(text) })) })],
    ),
  }),
} satisfies Record<string, Arrange>;

/** What is included, as the product says; nothing where it says nothing. Beside it a drawing that the opening has not shown. */
export const whatIsIn = (product: NamedProduct, drawing: DrawingName): SectionPlan[] => {
  if (!product.included || product.included.length === 0) return [];
  const list = [head('What you receive'), part('product', { shows: ['included'] })];
  return [
    product.pictureIds.length > 0
      ? { name: 'What is in it', columns: twoColumns(7, list, [drawn(drawing)]), more: { place: 'center' } }
      : { name: 'What is in it', width: 'narrow', columns: one(...list) },
  ];
};

export const PRICES = {
  centred: (product, said) => ({
    name: 'Price',
    ground: 'tint',
    align: 'center',
    width: 'narrow',
    columns: one(headlinePart(2, 'medium', name), part('price'), press(said.press), ...promiseOf(product)),
  }),
  dark: (product, said, [, , third]) => ({
    name: 'Price',
    ground: 'dark',
    columns: twoColumns(7, [headlinePart(2, 'medium', name), part('price'), press(said.press), ...promiseOf(product)], [shown(product, third, 'square')]),
    more: { place: 'center' },
  }),
  table: (product, said) => ({
    name: 'Price',
    ground: 'tint',
    columns: one(headlinePart(2, 'medium', name), part('price'), press(said.press), part('badges'), ...promiseOf(product)),
  }),
} satisfies Record<string, Arrange>;

export const questionsOf = (said: DesignWords): SectionPlan => ({
  name: 'Questions',
  width: 'narrow',
  columns: one(head('Questions'), part('faq', { items: said.questions.map(([question, answer]) => ({ question, answer: say(answer) })) })),
});

export const closingOf = (said: DesignWords, pattern?: 'dots' | 'stars' | 'leaves' | 'slants' | 'confetti' | 'rings'): SectionPlan => ({
  name: 'Last call',
  ground: 'dark',
  space: 'wide',
  align: 'center',
  width: 'narrow',
  columns: one(head(said.closing[0]), textPart('lead', say(said.closing[1])), press(said.press)),
  ...(pattern ? { more: { pattern } } : {}),
});

/** A page on which an address is left: for a gift, or for a place. */
export const askingFor = (
  said: DesignWords,
  drawing: DrawingName,
  label: string,
  ground: SectionPlan['ground'] = 'dark',
): ((product: NamedProduct) => SectionPlan[]) => {
  return (product) => [
    {
      name: 'Opening',
      ground,
      space: 'wide',
      columns: [
        {
          span: 7,
          parts: [
            textPart('eyebrow', words(said.gift)),
            headlinePart(1, 'large', words({ bound: 'product.name', fallback: product.name.slice(0, 120) })),
            textPart('lead', words({ bound: 'product.description', fallback: product.name.slice(0, 120) })),
            drawn(drawing, { layout: { width: 'two-thirds' } }),
          ],
        },
        { span: 5, parts: [part('form', { button: words(label), note: words('Questions? Write to ', { bound: 'shop.email' }, '.') })], panel: 'sheet' },
      ],
      more: { place: 'center' },
    },
    {
      name: 'What it is',
      columns: one(
        head(said.reasons),
        part('icon-list', {
          arrangement: 'grid',
          look: 'disc',
          items: said.reason.map(([icon, title, text]) => ({ icon, title: say(title), words: say(text) })),
        }),
      ),
    },
  ];
};

export const thanking = (said: DesignWords, drawing: DrawingName): (() => SectionPlan[]) => {
  return () => [
    {
      name: 'Thanks',
      ground: 'tint',
      columns: twoColumns(
        7,
        [
          headlinePart(1, 'large', words('Thank you, ', { bound: 'buyer.firstName', fallback: 'and welcome' })),
          textPart('lead', words('Your order ', { bound: 'order.number', fallback: '' }, ' is complete. A receipt is on its way by e-mail.')),
          textPart('body', say(said.thanks)),
        ],
        [drawn(drawing)],
      ),
      more: { place: 'center' },
    },
    { name: 'Your things', width: 'narrow', columns: one(part('downloads'), part('receipt')) },
    { name: 'Pass it on', width: 'narrow', columns: one(part('share')) },
  ];
};

interface Arrangement {
  opening: keyof typeof OPENINGS;
  reasons: keyof typeof REASONS;
  story: keyof typeof STORIES;
  way: keyof typeof WAYS;
  price: keyof typeof PRICES;
  pattern?: 'dots' | 'stars' | 'leaves' | 'slants' | 'confetti' | 'rings';
}

/** A whole sales page of a design. */
export const selling = (
  said: DesignWords,
  drawings: readonly [DrawingName, DrawingName, DrawingName],
  how: Arrangement,
): ((product: NamedProduct) => SectionPlan[]) => {
  return (product) => [
    OPENINGS[how.opening](product, said, drawings),
    REASONS[how.reasons](product, said, drawings),
    STORIES[how.story](product, said, drawings),
    ...whatIsIn(product, drawings[0]),
    WAYS[how.way](product, said),
    PRICES[how.price](product, said, drawings),
    questionsOf(said),
    closingOf(said, how.pattern),
  ];
};
