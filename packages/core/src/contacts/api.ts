import { z } from 'zod';
import { ConditionTextSchema } from '../conditions';
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
export const ContactListQuerySchema = ListQuerySchema.extend({ condition: ConditionTextSchema });
export type ContactListQuery = z.infer<typeof ContactListQuerySchema>;
export const ContactPageSchema = listPageSchema(ContactRowSchema);
export type ContactPage = z.infer<typeof ContactPageSchema>;

/** One answer on a form, with the label as it stood then. */
export const AnswerSchema = z.object({ formId: z.string(), field: z.string(), label: z.string(), value: z.string(), at: z.int() });

export const ContactTagsSchema = z.object({ tags: z.array(z.string().trim().min(1).max(60)).max(50) });

/** How a lead turned out, as a person judged it. */
export const LeadQualitySchema = z.enum(['good', 'poor']);
export type LeadQuality = z.infer<typeof LeadQualitySchema>;
export const JudgedLeadSchema = z.object({ quality: LeadQualitySchema.nullable() });

export const ContactDetailSchema = ContactRowSchema.extend({
  answers: z.array(AnswerSchema).describe('By field, the newest first'),
  tags: z.array(z.string()),
  quality: LeadQualitySchema.nullable().describe('Null while nobody has judged'),
  bookings: z.array(z.object({ id: z.string(), subject: z.string(), startAt: z.int(), endAt: z.int(), cancelledAt: z.int().nullable() })),
  campaign: CampaignSchema.nullable(),
  story: z.array(StoryEntrySchema),
});
export type ContactDetail = z.infer<typeof ContactDetailSchema>;
