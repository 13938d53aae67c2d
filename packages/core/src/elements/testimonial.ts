import { z } from 'zod';
import { idSchema } from '../ids';
import { elementRecord, onlyWords } from './record';
import { placeholder, WordsSchema } from './words';

/** Ways in which somebody's words can stand. */
export const TESTIMONIAL_STYLES = ['line', 'card', 'large', 'bubble', 'note'] as const;

/** Whose words they are; the picture may be a file, and stars only stand where somebody gave them. */
export const SayingSchema = z.object({
  words: WordsSchema,
  name: z.string().max(120),
  detail: z.string().max(120),
  pictureId: idSchema('file').nullable().optional(),
  stars: z.int().min(1).max(5).optional(),
});
export type Saying = z.infer<typeof SayingSchema>;

export const newSaying = (): Saying => ({ words: placeholder('What a buyer wrote.'), name: '', detail: '' });

export const testimonial = elementRecord('testimonial', { ...SayingSchema.shape, style: z.enum(TESTIMONIAL_STYLES).optional() })({
  name: 'Testimonial',
  create: newSaying,
  words: onlyWords,
});
