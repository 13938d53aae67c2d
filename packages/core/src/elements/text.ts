import { z } from 'zod';
import { elementRecord, onlyWords } from './record';
import { placeholder, WordsSchema } from './words';

export const text = elementRecord('text', { style: z.enum(['body', 'lead', 'small', 'eyebrow']), words: WordsSchema })({
  name: 'Text',
  create: () => ({ style: 'body', words: placeholder('Some words.') }),
  words: onlyWords,
});
