import { z } from 'zod';
import { ActionSchema } from './action';
import { elementRecord, onlyWords } from './record';
import { WordsSchema, words } from './words';

export const button = elementRecord('button', { style: z.enum(['main', 'quiet', 'link']), words: WordsSchema, action: ActionSchema })({
  name: 'Button',
  create: () => ({ style: 'main', words: words('Go on'), action: { kind: 'next' } }),
  words: onlyWords,
});
