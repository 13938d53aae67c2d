import { z } from 'zod';
import { idSchema } from '../ids';

/** A place outside that sends leads here. */
export const LeadSourceSchema = z.object({
  id: idSchema('leadSource'),
  name: z.string(),
  fields: z.record(z.string(), z.string()),
  tags: z.array(z.string()),
  thanksUrl: z.string().nullable(),
  received: z.int(),
  lastAt: z.int().nullable(),
});
export type LeadSource = z.infer<typeof LeadSourceSchema>;

export const NewLeadSourceSchema = z.object({
  name: z.string().trim().min(1, 'Say where they come from.').max(80),
  fields: z.record(z.string().min(1).max(120), z.string().regex(/^[a-z][a-zA-Z0-9]{0,30}$/, 'A field’s key is letters and digits.')).default({}),
  tags: z.array(z.string().trim().min(1).max(60)).max(20).default([]),
  thanksUrl: z
    .url({ protocol: /^https?$/, error: 'An address begins with https://' })
    .max(500)
    .nullable()
    .default(null),
});
export type NewLeadSource = z.input<typeof NewLeadSourceSchema>;

/** A new place with the address it sends to; its key is shown this once. */
export const MadeLeadSourceSchema = LeadSourceSchema.extend({ address: z.string() });
export type MadeLeadSource = z.infer<typeof MadeLeadSourceSchema>;
