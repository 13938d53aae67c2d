import { z } from 'zod';
import { elementRecord, itemWords } from './record';
import { placeholder, WordsSchema } from './words';

export const steps = elementRecord('steps', {
  arrangement: z.enum(['column', 'row']),
  items: z
    .array(z.object({ title: WordsSchema, words: WordsSchema }))
    .min(1)
    .max(12),
})({
  name: 'Steps',
  create: () => ({
    arrangement: 'column',
    items: ['First', 'Then', 'At the end'].map((title) => ({ title: placeholder(title), words: placeholder('What happens, in a sentence.') })),
  }),
  words: ({ items }) => itemWords(items, 'title', 'words'),
});
