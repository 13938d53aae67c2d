import { z } from 'zod';
import { elementRecord } from './record';

/** What an element about the step's product can show. */
export const PRODUCT_PARTS = ['description', 'included', 'preview', 'policy'] as const;

export const product = elementRecord('product', { shows: z.array(z.enum(PRODUCT_PARTS)).min(1, 'Show at least one thing.') })({
  name: 'Product details',
  create: () => ({ shows: ['description', 'included'] }),
  words: () => [],
});
