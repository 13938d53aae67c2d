import { z } from 'zod';
import { elementRecord, onlyWords } from './record';
import { WordsSchema, words } from './words';

export const text = elementRecord('text', { style: z.enum(['body', 'lead', 'small', 'eyebrow']), words: WordsSchema })({
  name: 'Text',
  create: () => ({ style: 'body', words: words('Some words.') }),
  words: onlyWords,
});
