import { newSaying } from '../../elements';
import { one, part, type ReadySection } from '../plan';
import { body, button, drawn, eyebrow, head, note, say, two, words } from './tools';

const sayings = (count: number) => Array.from({ length: count }, newSaying);

export const proofs: readonly ReadySection[] = [
  {
    key: 'proof',
    purpose: 'proof',
    name: 'Two people',
    plan: () => ({ name: 'From readers', ground: 'tint', columns: [1, 2].map(() => ({ span: 6, parts: [part('testimonial')] })) }),
  },
  {
    key: 'proof-large',
    purpose: 'proof',
    name: 'One person, large',
    plan: () => ({ name: 'In their words', space: 'wide', width: 'narrow', align: 'center', columns: one(part('testimonial', { style: 'large' })) }),
  },
  {
    key: 'proof-cards',
    purpose: 'proof',
    name: 'Three on cards',
    plan: () => ({
      name: 'In their words',
      ground: 'tint',
      columns: one(head(say('What they say')), part('testimonials', { arrangement: 'grid', style: 'card', items: sayings(3) })),
    }),
  },
  {
    key: 'proof-wall',
    purpose: 'proof',
    name: 'A wall of notes',
    plan: () => ({
      name: 'In their words',
      columns: one(head(say('From the post')), part('testimonials', { arrangement: 'wall', style: 'note', items: sayings(6) })),
    }),
  },
  {
    key: 'proof-carousel',
    purpose: 'proof',
    name: 'One after the other',
    plan: () => ({
      name: 'In their words',
      ground: 'sheet',
      columns: one(head(say('What they say')), part('testimonials', { arrangement: 'carousel', style: 'card', items: sayings(5) })),
    }),
  },
  {
    key: 'proof-bubbles',
    purpose: 'proof',
    name: 'In bubbles',
    plan: () => ({
      name: 'In their words',
      ground: 'tint',
      columns: one(head(say('Heard afterwards')), part('testimonials', { arrangement: 'grid', style: 'bubble', items: sayings(3) })),
    }),
  },
  {
    key: 'proof-logos',
    purpose: 'proof',
    name: 'Known from',
    plan: () => ({ name: 'Known from', space: 'tight', align: 'center', columns: one(part('logos')) }),
  },
  {
    key: 'proof-badges',
    purpose: 'proof',
    name: 'Trust in one line',
    plan: () => ({ name: 'Trust', ground: 'sheet', space: 'tight', align: 'center', columns: one(part('badges')) }),
  },
  {
    key: 'proof-number',
    purpose: 'proof',
    name: 'Three figures',
    plan: () => ({
      name: 'Figures',
      ground: 'dark',
      align: 'center',
      columns: ['How many', 'How long', 'How often'].map((label) => ({ span: 4, parts: [head(say('00')), note(say(label))] })),
    }),
  },
  {
    key: 'proof-case',
    purpose: 'proof',
    name: 'One story of success',
    plan: () => ({
      name: 'A story',
      columns: two(
        5,
        [drawn('portrait-curls')],
        [eyebrow(say('Name, town')), head(say('What they did with it')), body(say('Where they began, what they tried, what came of it.')), part('testimonial')],
      ),
      more: { place: 'center' },
    }),
  },
];

export const about: readonly ReadySection[] = [
  {
    key: 'about-person',
    purpose: 'about',
    name: 'Who I am',
    plan: () => ({
      name: 'Who I am',
      columns: two(
        4,
        [drawn('portrait-long', { shape: 'round' })],
        [head(say('Who makes this')), body(say('How you came to it, in four sentences.')), note(words('Write to me: ', { bound: 'shop.email' }))],
      ),
      more: { place: 'center' },
    }),
  },
  {
    key: 'about-workshop',
    purpose: 'about',
    name: 'Where it is made',
    trade: 'craft',
    plan: () => ({
      name: 'Where it is made',
      ground: 'tint',
      columns: two(7, [drawn('tool-wall')], [head(say('Where it is made')), body(say('The room, the hands, the hours.'))]),
      more: { place: 'center' },
    }),
  },
  {
    key: 'about-letter',
    purpose: 'about',
    name: 'A letter from you',
    plan: () => ({
      name: 'A letter',
      ground: 'sheet',
      width: 'narrow',
      columns: one(body(say('Dear reader,')), body(say('Say why you made this, as you would to one person.')), body(say('Your name'))),
      more: { inset: true },
    }),
  },
  {
    key: 'about-team',
    purpose: 'about',
    name: 'The people',
    plan: () => ({
      name: 'The people',
      align: 'center',
      columns: (['portrait-short', 'portrait-curls', 'portrait-glasses'] as const).map((drawing) => ({
        span: 4,
        parts: [drawn(drawing, { layout: { width: 'two-thirds' } }), body(say('Name and what they do'))],
      })),
    }),
  },
];

export const comparisons: readonly ReadySection[] = [
  {
    key: 'comparison',
    purpose: 'comparison',
    name: 'A table',
    plan: () => ({ name: 'Compared', columns: one(head(say('How it differs')), part('comparison')) }),
  },
  {
    key: 'comparison-dark',
    purpose: 'comparison',
    name: 'A table on the main colour',
    plan: () => ({
      name: 'Compared',
      ground: 'dark',
      columns: one(head(say('What you would do otherwise')), part('comparison'), button('Take the easier way')),
    }),
  },
  {
    key: 'comparison-forwhom',
    purpose: 'comparison',
    name: 'For whom, and for whom not',
    plan: () => ({
      name: 'For whom',
      columns: [
        {
          span: 6,
          parts: [head(words('It is for you if')), part('list', { marker: 'check', items: [say('First'), say('Second'), say('Third')] })],
          panel: 'sheet',
        },
        { span: 6, parts: [head(words('It is not for you if')), part('list', { marker: 'dot', items: [say('First'), say('Second')] })], panel: 'line' },
      ],
      more: { place: 'stretch' },
    }),
  },
];
