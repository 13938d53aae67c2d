import { z } from 'zod';
import { ICON_NAMES } from './icons';
import { elementRecord, itemWords } from './record';
import { placeholder, WordsSchema } from './words';

export const iconList = elementRecord('icon-list', {
  arrangement: z.enum(['rows', 'grid', 'line']),
  look: z.enum(['plain', 'disc', 'outline']),
  items: z
    .array(z.object({ icon: z.enum(ICON_NAMES), title: WordsSchema, words: WordsSchema }))
    .min(1)
    .max(24),
})({
  name: 'List with icons',
  create: () => ({
    arrangement: 'rows',
    look: 'disc',
    items: [
      { icon: 'check', title: placeholder('What they get'), words: placeholder('Why it matters to them.') },
      { icon: 'clock', title: placeholder('What it saves'), words: placeholder('How that shows on an ordinary day.') },
    ],
  }),
  words: ({ items }) => itemWords(items, 'title', 'words'),
});
