import { one, part, type ReadySection } from '../plan';
import { body, button, checks, drawn, eyebrow, head, iconLines, lead, productPicture, say, small, stepLines, two, words } from './tools';

const third = (title: string, text: string) => [small(say(title)), body(say(text))];

export const benefits: readonly ReadySection[] = [
  {
    key: 'benefits',
    purpose: 'benefits',
    name: 'Three reasons',
    plan: () => ({
      name: 'Three reasons',
      columns: ['First', 'Second', 'Third'].map((name) => ({ span: 4, parts: third(`${name} reason`, 'Why it matters, in a sentence or two.') })),
    }),
  },
  {
    key: 'benefits-icons',
    purpose: 'benefits',
    name: 'Reasons with icons',
    plan: () => ({
      name: 'Reasons',
      ground: 'tint',
      columns: one(
        head(say('What they gain')),
        iconLines('grid', 'disc', [
          ['clock', 'Time', 'How much, and when they feel it.'],
          ['heart', 'Ease', 'What they no longer worry about.'],
          ['target', 'A result', 'What they can show at the end.'],
        ]),
      ),
    }),
  },
  {
    key: 'benefits-beside',
    purpose: 'benefits',
    name: 'A claim and its reasons',
    plan: () => ({
      name: 'Reasons',
      columns: two(
        5,
        [eyebrow(say('Why this')), head(say('The claim that the reasons carry'))],
        [
          iconLines('rows', 'outline', [
            ['check', 'The first reason', 'What it looks like on an ordinary day.'],
            ['check', 'The second reason', 'Who says so, or how it is measured.'],
            ['check', 'The third reason', 'What others do instead.'],
          ]),
        ],
      ),
    }),
  },
  {
    key: 'benefits-drawing',
    purpose: 'benefits',
    name: 'Beside a drawing',
    trade: 'services',
    plan: () => ({
      name: 'Reasons',
      ground: 'sheet',
      columns: two(6, [drawn('compass-map')], [head(say('Where it takes them')), checks('The first stage', 'The second stage', 'Where they arrive')]),
      more: { place: 'center' },
    }),
  },
  {
    key: 'benefits-loud',
    purpose: 'benefits',
    name: 'One loud reason',
    plan: () => ({
      name: 'The reason',
      ground: 'dark',
      space: 'wide',
      align: 'center',
      width: 'narrow',
      columns: one(head(say('The one reason that is enough')), lead(say('And the proof of it.'))),
      more: { pattern: 'waves' },
    }),
  },
  {
    key: 'benefits-before',
    purpose: 'benefits',
    name: 'Before and afterwards',
    plan: () => ({
      name: 'Before and afterwards',
      columns: [
        { span: 6, parts: [small(words('Before')), checks('What is hard today', 'What it costs them')], panel: 'line' },
        { span: 6, parts: [small(words('Afterwards')), checks('What is easy then', 'What they have instead')], panel: 'accent' },
      ],
      more: { place: 'stretch' },
    }),
  },
];

export const included: readonly ReadySection[] = [
  {
    key: 'included-list',
    purpose: 'included',
    name: 'What is in it',
    plan: () => ({
      name: 'What is in it',
      columns: two(
        5,
        [productPicture('tall')],
        [head(words('What is in ', { bound: 'product.name' })), part('product', { shows: ['description', 'included'] })],
      ),
    }),
  },
  {
    key: 'included-cards',
    purpose: 'included',
    name: 'Parts on cards',
    plan: () => ({
      name: 'What is in it',
      ground: 'tint',
      columns: [1, 2, 3].map((number) => ({
        span: 4,
        parts: [small(say(`Part ${number}`)), body(say('What it is, and what it is good for.'))],
        panel: 'sheet' as const,
      })),
      more: { place: 'stretch' },
    }),
  },
  {
    key: 'included-chapters',
    purpose: 'included',
    name: 'Chapters or lessons',
    trade: 'courses',
    plan: () => ({
      name: 'Chapters',
      width: 'narrow',
      columns: one(
        head(say('Chapter by chapter')),
        part('list', { marker: 'number', items: ['What comes first', 'What comes then', 'And after it', 'The last chapter'].map((line) => say(line)) }),
      ),
    }),
  },
  {
    key: 'included-box',
    purpose: 'included',
    name: 'Out of the box',
    plan: () => ({
      name: 'Out of the box',
      ground: 'sheet',
      columns: two(6, [head(say('What comes in the parcel')), checks('The thing itself', 'What belongs to it', 'A word from you')], [drawn('box-open')]),
      more: { place: 'center' },
    }),
  },
  {
    key: 'included-bonus',
    purpose: 'included',
    name: 'And on top of it',
    plan: () => ({
      name: 'On top',
      ground: 'tint',
      columns: two(4, [drawn('gift-bow')], [eyebrow(say('On top of it')), head(say('What they get besides')), body(say('What it is worth, and until when.'))]),
      more: { inset: true, place: 'center' },
    }),
  },
];

export const steps: readonly ReadySection[] = [
  {
    key: 'steps-row',
    purpose: 'steps',
    name: 'Three steps in a row',
    plan: () => ({
      name: 'How it works',
      ground: 'tint',
      columns: one(
        head(say('How it goes')),
        stepLines('row', [
          ['They order', 'What happens in the first minute.'],
          ['It arrives', 'By which way, and when.'],
          ['They begin', 'What they do first.'],
        ]),
      ),
    }),
  },
  {
    key: 'steps-column',
    purpose: 'steps',
    name: 'Steps beside a headline',
    plan: () => ({
      name: 'How it works',
      columns: two(
        5,
        [head(say('From the first day to the last')), button('Begin')],
        [
          stepLines('column', [
            ['On the first day', 'What they do, and how long it takes.'],
            ['In the first week', 'What has changed by then.'],
            ['At the end', 'What they have made.'],
          ]),
        ],
      ),
    }),
  },
  {
    key: 'steps-road',
    purpose: 'steps',
    name: 'A road with steps',
    plan: () => ({
      name: 'The way',
      ground: 'sheet',
      columns: two(
        5,
        [drawn('road-way')],
        [
          stepLines('column', [
            ['Where they stand', 'How it feels.'],
            ['What they do', 'With what you give them.'],
            ['Where they arrive', 'What is different.'],
          ]),
        ],
      ),
      more: { place: 'center' },
    }),
  },
];
