import { z } from 'zod';
import { elementRecord, onlyWords } from './record';
import { placeholder, WordsSchema } from './words';

export const headline = elementRecord('headline', { level: z.literal([1, 2, 3]), size: z.enum(['large', 'medium', 'small']), words: WordsSchema })({
  name: 'Headline',
  create: () => ({ level: 2, size: 'medium', words: placeholder('A headline') }),
  words: onlyWords,
});
