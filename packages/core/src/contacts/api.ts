import { z } from 'zod';
import { CampaignSchema } from '../facts';
import { ListQuerySchema, listPageSchema } from '../lists';
import { StoryEntrySchema } from '../tracking';

export const ContactRowSchema = z.object({
  id: z.string(),
  email: z.string(),
  firstName: z.string(),
  lastName: z.string(),
  country: z.string().nullable(),
  createdAt: z.int(),
  orders: z.int().describe('Paid orders in live mode, without gifts'),
  paid: z.int().describe('What they came to, minor units'),
});
export type ContactRow = z.infer<typeof ContactRowSchema>;
export const ContactListQuerySchema = ListQuerySchema;
export const ContactPageSchema = listPageSchema(ContactRowSchema);

export const ContactDetailSchema = ContactRowSchema.extend({
  answers: z.record(z.string(), z.string()),
  campaign: CampaignSchema.nullable(),
  story: z.array(StoryEntrySchema),
});
export type ContactDetail = z.infer<typeof ContactDetailSchema>;
