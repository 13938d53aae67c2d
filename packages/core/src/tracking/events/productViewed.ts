import { z } from 'zod';
import { eventRecord } from '../record';

export const productViewed = eventRecord({
  kind: 'product.viewed',
  payload: z.object({ productId: z.string(), name: z.string(), value: z.int().nullable().describe('Its price at that moment, minor units') }),
  words: ({ name }) => `Looked at “${name}”`,
});
