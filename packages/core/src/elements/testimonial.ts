import { z } from 'zod';
import { elementRecord, onlyWords } from './record';
import { WordsSchema, words } from './words';

export const testimonial = elementRecord('testimonial', { words: WordsSchema, name: z.string().max(120), detail: z.string().max(120) })({
  name: 'Testimonial',
  create: () => ({ words: words('What a buyer wrote.'), name: 'Name', detail: 'Town' }),
  words: onlyWords,
});
