import type { DrawingName, Trade } from '../../elements';
import { one, part, type ReadySection, type SectionPlan } from '../plan';
import { big, button, checks, drawn, eyebrow, lead, note, productPicture, say, two, words } from './tools';

type Make = (drawing: DrawingName) => Omit<SectionPlan, 'name'>;

/** First screens of one arrangement, with the drawing of a trade. */
const arrangement = {
  beside: (drawing) => ({
    ground: 'plain',
    space: 'wide',
    columns: two(
      7,
      [eyebrow(say('For whom this is')), big(say('Say what changes for your reader')), lead(say('One sentence on how.')), button('Begin here')],
      [drawn(drawing)],
    ),
  }),
  dark: (drawing) => ({
    ground: 'dark',
    space: 'wide',
    columns: two(6, [big(say('Name the moment they wait for')), lead(say('What they will have in their hands.')), button('Get it now')], [drawn(drawing)]),
    more: { place: 'center' },
  }),
  centred: (drawing) => ({
    ground: 'tint',
    space: 'wide',
    align: 'center',
    width: 'narrow',
    columns: one(drawn(drawing, { layout: { width: 'half' } }), big(say('The promise, in eight words')), lead(say('What makes it true.')), button('Go on')),
  }),
  panel: (drawing) => ({
    ground: 'tint',
    space: 'wide',
    columns: [
      { span: 6, parts: [drawn(drawing)] },
      {
        span: 6,
        parts: [big(say('What they will be able to do')), checks('The first thing', 'The second thing', 'The third thing'), button('Show me')],
        panel: 'sheet' as const,
      },
    ],
    more: { place: 'center' },
  }),
} satisfies Record<string, Make>;

const WITH_DRAWINGS: Array<[key: string, name: string, trade: Trade, make: keyof typeof arrangement, drawing: DrawingName]> = [
  ['opening-books', 'A book speaks', 'books', 'beside', 'open-book'],
  ['opening-letters', 'A letter arrives', 'books', 'centred', 'envelope-open'],
  ['opening-course', 'A path of lessons', 'courses', 'panel', 'lesson-path'],
  ['opening-screen', 'A lesson to watch', 'courses', 'beside', 'screen-lesson'],
  ['opening-craft', 'Made by hand', 'craft', 'beside', 'pottery'],
  ['opening-parcel', 'It comes wrapped', 'craft', 'panel', 'wrapped-parcel'],
  ['opening-music', 'Sound on', 'music', 'dark', 'record-player'],
  ['opening-night', 'Under the sky', 'sky', 'dark', 'telescope-night'],
  ['opening-food', 'At the table', 'food', 'centred', 'bread-board'],
  ['opening-garden', 'It grows', 'garden', 'beside', 'potted-plant'],
  ['opening-body', 'A quiet hour', 'body', 'centred', 'seated-figure'],
  ['opening-home', 'At home', 'home', 'panel', 'house-front'],
  ['opening-tools', 'The sheet that does it', 'tools', 'beside', 'sheet-grid'],
  ['opening-talk', 'A conversation', 'services', 'panel', 'two-talking'],
  ['opening-event', 'On that evening', 'events', 'dark', 'stage-lights'],
];

export const openings: readonly ReadySection[] = [
  {
    key: 'opening',
    purpose: 'opening',
    name: 'Headline and picture',
    plan: () => ({
      name: 'Opening',
      ground: 'dark',
      space: 'wide',
      columns: two(7, [big(say('Say what changes for your reader')), lead(say('One sentence on how.')), part('button')], [part('picture')]),
    }),
  },
  {
    key: 'opening-product',
    purpose: 'opening',
    name: 'The product and its price',
    plan: () => ({
      name: 'Opening',
      space: 'wide',
      columns: two(
        6,
        [productPicture()],
        [
          eyebrow(words({ bound: 'product.name' })),
          big(say('What it does for them')),
          lead(words({ bound: 'product.description' })),
          part('price'),
          button('Get it'),
        ],
      ),
    }),
  },
  {
    key: 'opening-words',
    purpose: 'opening',
    name: 'Nothing but a sentence',
    plan: () => ({
      name: 'Opening',
      space: 'wide',
      align: 'center',
      width: 'narrow',
      columns: one(big(say('One sentence that is worth the whole screen')), button('Read on', { style: 'quiet' })),
      more: { tall: true },
    }),
  },
  {
    key: 'opening-form',
    purpose: 'opening',
    name: 'Promise beside a form',
    plan: () => ({
      name: 'Opening',
      ground: 'dark',
      space: 'wide',
      columns: [
        {
          span: 7,
          parts: [big(say('What they get for their address')), lead(say('When it comes, and how long it takes to read.')), checks('First', 'Second', 'Third')],
        },
        { span: 5, parts: [part('form')], panel: 'sheet' },
      ],
    }),
  },
  {
    key: 'opening-video',
    purpose: 'opening',
    name: 'A video first',
    plan: () => ({
      name: 'Opening',
      space: 'wide',
      align: 'center',
      columns: one(big(say('What they see in the next two minutes')), part('video'), button('Go on'), note(say('No more than a line about what comes next.'))),
    }),
  },
  {
    key: 'opening-pattern',
    purpose: 'opening',
    name: 'On a pattern, hanging over',
    plan: () => ({
      name: 'Opening',
      ground: 'dark',
      space: 'wide',
      align: 'center',
      width: 'narrow',
      columns: one(big(say('Say it in the middle')), lead(say('And why today.')), productPicture('wide')),
      more: { pattern: 'dots', overlap: true },
    }),
  },
  ...WITH_DRAWINGS.map(
    ([key, name, trade, make, drawing]): ReadySection => ({
      key,
      purpose: 'opening',
      name,
      trade,
      plan: () => ({ name: 'Opening', ...arrangement[make](drawing) }),
    }),
  ),
];
