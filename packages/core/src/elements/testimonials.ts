import { z } from 'zod';
import { elementRecord, itemWords } from './record';
import { newSaying, SayingSchema, TESTIMONIAL_STYLES } from './testimonial';

export const testimonials = elementRecord('testimonials', {
  arrangement: z.enum(['grid', 'carousel', 'wall']),
  style: z.enum(TESTIMONIAL_STYLES),
  items: z.array(SayingSchema).min(1).max(40),
})({
  name: 'Testimonials together',
  create: () => ({ arrangement: 'grid', style: 'card', items: [newSaying(), newSaying(), newSaying()] }),
  words: ({ items }) => itemWords(items, 'words'),
});
