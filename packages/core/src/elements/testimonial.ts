import { z } from 'zod';
import { elementRecord, onlyWords } from './record';
import { placeholder, WordsSchema } from './words';

export const testimonial = elementRecord('testimonial', { words: WordsSchema, name: z.string().max(120), detail: z.string().max(120) })({
  name: 'Testimonial',
  create: () => ({ words: placeholder('What a buyer wrote.'), name: '', detail: '' }),
  words: onlyWords,
});
