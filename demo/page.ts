import { isElementOf, type PageElement, words } from '@ruta/core/elements';
import type { IdKind } from '@ruta/core/ids';
import type { PageDocument, Section } from '@ruta/core/page';
import { buildSection } from '@ruta/core/sections';

/** The sample shop's own words and pictures on the pages that the template drew. */
export function dressOptIn(page: PageDocument, pictures: { sky: string; moon: string }, newId: (kind: IdKind) => string): PageDocument {
  const sections = page.sections.map((section): Section => {
    if (section.name !== 'Opening') return section;
    return {
      ...section,
      backdropId: pictures.sky,
      columns: section.columns.map((column) => ({
        ...column,
        elements: column.elements.map((element) => {
          if (element.type === 'text' && element.style === 'eyebrow') return { ...element, words: words('Free printable') };
          if (element.type === 'headline') return { ...element, words: words('Know tonight’s moon before you look up') };
          if (element.type === 'text')
            return { ...element, words: words('One page for your wall. Rise, set and phase for every night of the month, drawn as you will see it.') };
          if (element.type === 'picture')
            return { ...element, source: { kind: 'file' as const, fileId: pictures.moon }, alt: 'A waxing crescent moon among stars' };
          if (isElementOf(element, 'form')) {
            return {
              ...element,
              button: words('Send me the moon'),
              fields: [
                ...element.fields,
                {
                  key: 'question1',
                  label: 'Where do you live?',
                  kind: 'choice' as const,
                  required: true,
                  choices: ['North of 45°', '25° to 45° north', 'Nearer the equator', 'South of 25°'],
                },
                {
                  key: 'question2',
                  label: 'Have you a telescope?',
                  kind: 'choice' as const,
                  required: false,
                  choices: ['No', 'Yes, and I use it', 'Yes, in the attic'],
                },
              ],
            };
          }
          return element;
        }),
      })),
    };
  });
  const inside = buildSection(
    {
      name: 'What is inside',
      columns: [{ span: 12, parts: [{ type: 'headline', level: 2, size: 'medium', words: words('What is inside') }] }],
      align: 'center',
      space: 'normal',
    },
    newId,
  );
  const three = buildSection(
    {
      name: 'Three columns',
      space: 'tight',
      columns: [
        ['Every night’s phase', 'Drawn as you will see it, tilt and all, not a row of icons.'],
        ['Rise and set', 'For your latitude, in your own time, clocks changed for you.'],
        ['One thing to find', 'A crater, a planet beside it, an old sea with a good story.'],
      ].map(([title = '', text = '']) => ({
        span: 4,
        parts: [
          { type: 'headline' as const, level: 3 as const, size: 'small' as const, words: words(title) },
          { type: 'text' as const, style: 'body' as const, words: words(text) },
        ],
      })),
    },
    newId,
  );
  const proof = buildSection(
    {
      name: 'From readers',
      ground: 'tint',
      columns: [
        { span: 6, parts: [{ type: 'testimonial', words: words('I know the names now. My son asks me, and I answer.'), name: 'Tomasz', detail: 'Wrocław' }] },
        {
          span: 6,
          parts: [{ type: 'testimonial', words: words('It hangs beside the back door. We look, then we go out and look.'), name: 'Ilse', detail: 'Zwolle' }],
        },
      ],
    },
    newId,
  );
  const [header, opening] = sections;
  const footer = sections.at(-1);
  return {
    ...page,
    title: 'Moon Month, a free printable moon calendar',
    description: 'One page for your wall: rise, set and phase of the moon for every night of the month. Free.',
    sections: [header, opening, inside, three, proof, footer].filter((section) => section !== undefined),
  };
}

export function dressCheckout(page: PageDocument, newId: (kind: IdKind) => string): PageDocument {
  return {
    ...page,
    sections: page.sections.map((section) => ({
      ...section,
      columns: section.columns.map((column) => ({
        ...column,
        elements: column.elements.flatMap((element): PageElement[] => {
          if (element.type === 'headline') return [{ ...element, words: words('First Light, six weeks for bare eyes') }];
          if (element.type === 'order-form') return [{ ...element, button: words('Pay ', { bound: 'order.total' }, ' and begin tonight') }];
          if (element.type === 'order-summary')
            return [
              element,
              {
                id: newId('element'),
                type: 'testimonial',
                words: words('By week three I had stopped looking for a telescope to buy.'),
                name: 'Aoife',
                detail: 'Ennis',
              },
            ];
          return [element];
        }),
      })),
    })),
  };
}

/** The story speaks to where its reader lives, as they said it with their address. */
export function dressStory(page: PageDocument, newId: (kind: IdKind) => string): PageDocument {
  const line = (text: string, show: PageElement['show']): PageElement => ({
    id: newId('element'),
    type: 'text',
    style: 'body',
    words: words(text),
    ...(show ? { show } : {}),
  });
  const south = line('South of the equator Orion stands on his head. Every walk comes in a southern version, drawn for your sky.', {
    kind: 'when',
    condition: { fact: 'answer', question: 'Where do you live?', answer: 'South of 25°' },
  });
  const north = line('Every walk is drawn for your latitude and works from a balcony in a town.', { kind: 'otherwise', of: south.id });
  return {
    ...page,
    sections: page.sections.map((section) => ({
      ...section,
      columns: section.columns.map((column) => {
        const lead = column.elements.findIndex((element) => element.type === 'text' && element.style === 'lead');
        return section.name === 'Offer' && lead >= 0 ? { ...column, elements: column.elements.toSpliced(lead + 1, 0, south, north) } : column;
      }),
    })),
  };
}
