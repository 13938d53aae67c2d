import { z } from 'zod';
import { elementRecord } from './record';
import { WordsSchema, words } from './words';

export const progress = elementRecord('progress', {
  steps: z.array(WordsSchema).min(2).max(7),
  current: z.int().min(0).max(6).describe('Which one the visitor is at, from 0'),
})({
  name: 'Progress',
  create: () => ({ steps: [words('Your choice'), words('Payment'), words('Yours')], current: 0 }),
  words: ({ steps }) => steps.map((_, index) => ['steps', index]),
});
