import { z } from 'zod';
import { idSchema } from '../ids';
import { elementRecord } from './record';

/** Where a picture comes from: an uploaded file, or the picture of the step's product. */
export const PictureSourceSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('file'), fileId: idSchema('file') }),
  z.object({ kind: z.literal('product') }),
  z.object({ kind: z.literal('gift') }),
]);
export type PictureSource = z.infer<typeof PictureSourceSchema>;

export const picture = elementRecord('picture', {
  source: PictureSourceSchema.nullable(),
  alt: z.string().max(250, 'Keep the text alternative under 250 characters.'),
  shape: z.enum(['natural', 'wide', 'square', 'round']),
})({
  name: 'Picture',
  create: () => ({ source: null, alt: '', shape: 'natural' }),
  words: () => [],
});
