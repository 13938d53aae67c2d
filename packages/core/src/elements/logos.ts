import { z } from 'zod';
import { idSchema } from '../ids';
import { elementRecord } from './record';
import { placeholder, WordsSchema } from './words';

export const logos = elementRecord('logos', {
  label: WordsSchema,
  items: z
    .array(z.object({ name: z.string().trim().min(1, 'Say whose sign this is.').max(80), pictureId: idSchema('file').nullable() }))
    .min(1)
    .max(20),
  inColour: z.boolean(),
})({
  name: 'Row of logos',
  create: () => ({
    label: placeholder('Known from, or used by'),
    items: [
      { name: 'First', pictureId: null },
      { name: 'Second', pictureId: null },
      { name: 'Third', pictureId: null },
    ],
    inColour: false,
  }),
  words: () => [['label']],
});
