import { z } from 'zod';
import { ICON_NAMES } from './icons';
import { elementRecord, itemWords } from './record';
import { placeholder, WordsSchema, words } from './words';

export const badges = elementRecord('badges', {
  items: z
    .array(z.object({ icon: z.enum(ICON_NAMES), words: WordsSchema }))
    .min(1)
    .max(8),
})({
  name: 'Trust badges',
  create: () => ({
    items: [
      { icon: 'lock', words: words('Paid over a secure connection') },
      { icon: 'shield-check', words: placeholder('Your guarantee in four words') },
      { icon: 'mail', words: words('Answers from ', { bound: 'shop.email' }) },
    ],
  }),
  words: ({ items }) => itemWords(items, 'words'),
});
