import { z } from 'zod';
import { ListQuerySchema, listPageSchema } from '../lists';

/** A cart whose buyer gave an address and has not paid. */
export const LeftCartSchema = z.object({
  id: z.string(),
  email: z.string(),
  name: z.string(),
  goods: z.string().describe('Names of what is in it'),
  funnelName: z.string(),
  createdAt: z.int(),
  updatedAt: z.int(),
  link: z.string().describe('Brings its buyer back to it as it was'),
});
export type LeftCart = z.infer<typeof LeftCartSchema>;
export const LeftCartListQuerySchema = ListQuerySchema.extend({
  since: z.coerce.number().int().min(0).optional().describe('Only those touched since then, Unix time in milliseconds'),
});
export type LeftCartListQuery = z.infer<typeof LeftCartListQuerySchema>;
export const LeftCartPageSchema = listPageSchema(LeftCartSchema);
