import { z } from 'zod';
import { elementRecord } from './record';
import { placeholder, WordsSchema } from './words';

export const list = elementRecord('list', { marker: z.enum(['check', 'dot', 'number']), items: z.array(WordsSchema).min(1).max(40) })({
  name: 'List',
  create: () => ({ marker: 'check', items: [placeholder('First'), placeholder('Second')] }),
  words: ({ items }) => items.map((_, index) => ['items', index]),
});
