import { z } from 'zod';
import { ActionSchema } from './action';
import { elementRecord, itemWords } from './record';
import { WordsSchema, words } from './words';

export const navigation = elementRecord('navigation', {
  withLogo: z.boolean(),
  items: z
    .array(z.object({ label: WordsSchema, action: ActionSchema, style: z.enum(['link', 'button']) }))
    .min(1)
    .max(9),
})({
  name: 'Navigation',
  create: () => ({ withLogo: true, items: [{ label: words('Go on'), action: { kind: 'next' }, style: 'button' }] }),
  words: ({ items }) => itemWords(items, 'label'),
});
