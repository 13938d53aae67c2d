import { one, part, type ReadySection } from '../plan';
import { big, body, button, drawn, eyebrow, head, lead, note, productPicture, say, two, words } from './tools';

export const stories: readonly ReadySection[] = [
  {
    key: 'words',
    purpose: 'story',
    name: 'Words',
    plan: () => ({ name: 'Words', width: 'narrow', columns: one(head(say('A headline')), body(say('A paragraph that tells the story.'))) }),
  },
  {
    key: 'story-problem',
    purpose: 'story',
    name: 'What is hard about it',
    plan: () => ({
      name: 'The difficulty',
      width: 'narrow',
      columns: one(
        eyebrow(say('You know this')),
        head(say('Name the difficulty as they would')),
        body(say('What they have tried. Why it did not hold.')),
        body(say('What you found instead.')),
      ),
    }),
  },
  {
    key: 'story-picture',
    purpose: 'story',
    name: 'Words beside a picture',
    plan: () => ({ name: 'Story', columns: two(7, [head(say('What happened')), body(say('The story, in a few short paragraphs.'))], [part('picture')]) }),
  },
  {
    key: 'story-quote',
    purpose: 'story',
    name: 'One sentence to remember',
    plan: () => ({
      name: 'A sentence',
      ground: 'dark',
      space: 'wide',
      align: 'center',
      width: 'narrow',
      columns: one(head(say('The sentence they should take away'))),
      more: { pattern: 'leaves' },
    }),
  },
  {
    key: 'story-two',
    purpose: 'story',
    name: 'Two columns of words',
    plan: () => ({
      name: 'Words',
      columns: two(6, [head(say('On the one hand')), body(say('What speaks for it.'))], [head(say('On the other')), body(say('What to think of.'))]),
    }),
  },
];

export const media: readonly ReadySection[] = [
  {
    key: 'media-video',
    purpose: 'media',
    name: 'A video',
    plan: () => ({ name: 'Video', width: 'narrow', align: 'center', columns: one(head(say('See it')), part('video')) }),
  },
  {
    key: 'media-video-beside',
    purpose: 'media',
    name: 'A video beside words',
    plan: () => ({
      name: 'Video',
      ground: 'tint',
      columns: two(7, [part('video')], [head(say('What you see here')), body(say('And what to look out for.'))]),
      more: { place: 'center' },
    }),
  },
  {
    key: 'media-three',
    purpose: 'media',
    name: 'Three pictures',
    plan: () => ({ name: 'Pictures', columns: [1, 2, 3].map(() => ({ span: 4, parts: [part('picture', { shape: 'tall' })] })) }),
  },
  {
    key: 'media-wide',
    purpose: 'media',
    name: 'One wide picture',
    plan: () => ({ name: 'Picture', space: 'tight', columns: one(part('picture', { shape: 'wide' })) }),
  },
  {
    key: 'media-arch',
    purpose: 'media',
    name: 'Pictures in arches',
    trade: 'body',
    plan: () => ({
      name: 'Pictures',
      ground: 'tint',
      align: 'center',
      columns: [1, 2].map(() => ({ span: 6, parts: [part('picture', { shape: 'arch', caption: say('What it shows') })] })),
    }),
  },
];

export const closings: readonly ReadySection[] = [
  {
    key: 'closing',
    purpose: 'closing',
    name: 'The last word',
    plan: () => ({
      name: 'Last call',
      ground: 'dark',
      space: 'wide',
      align: 'center',
      width: 'narrow',
      columns: one(
        head(say('Why not today?')),
        lead(say('What it will be like a month from now.')),
        button('Get it now'),
        note(words('Questions? ', { bound: 'shop.email' })),
      ),
    }),
  },
  {
    key: 'closing-picture',
    purpose: 'closing',
    name: 'With the product once more',
    plan: () => ({
      name: 'Last call',
      ground: 'tint',
      columns: two(5, [productPicture('square')], [head(words({ bound: 'product.name' })), part('price'), button('Order it')]),
      more: { place: 'center' },
    }),
  },
  {
    key: 'closing-share',
    purpose: 'closing',
    name: 'Pass it on',
    plan: () => ({ name: 'Pass it on', width: 'narrow', columns: one(part('share')) }),
  },
  {
    key: 'closing-ps',
    purpose: 'closing',
    name: 'P.S.',
    plan: () => ({
      name: 'P.S.',
      width: 'narrow',
      columns: one(
        body(say('P.S. Whoever reads only this line should learn what it is, what it costs and until when.')),
        button('To the order', { style: 'quiet' }),
      ),
    }),
  },
];

export const afterwards: readonly ReadySection[] = [
  {
    key: 'after-thanks',
    purpose: 'after',
    name: 'Thank you, and the receipt',
    plan: () => ({
      name: 'Thank you',
      columns: two(
        6,
        [big(words('Thank you, ', { bound: 'buyer.firstName', fallback: 'and welcome' })), lead(say('What happens next, and when.')), part('downloads')],
        [part('receipt')],
      ),
    }),
  },
  {
    key: 'after-start',
    purpose: 'after',
    name: 'Begin here',
    plan: () => ({
      name: 'Begin here',
      ground: 'tint',
      columns: one(
        head(say('Begin like this')),
        part('steps', {
          arrangement: 'row',
          items: ['Today', 'This week', 'Whenever you are stuck'].map((title) => ({ title: words(title), words: say('One thing to do.') })),
        }),
      ),
    }),
  },
  {
    key: 'after-share',
    purpose: 'after',
    name: 'Tell a friend',
    plan: () => ({ name: 'Tell a friend', columns: two(5, [drawn('two-cups')], [part('share')]), more: { place: 'center' } }),
  },
  {
    key: 'after-offer',
    purpose: 'after',
    name: 'An offer with yes and no',
    plan: () => ({
      name: 'Offer',
      columns: two(
        6,
        [productPicture('square')],
        [eyebrow(say('Once, and only here')), head(words({ bound: 'product.name' })), body(words({ bound: 'product.description' })), part('offers')],
      ),
    }),
  },
];
