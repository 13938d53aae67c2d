import { z } from 'zod';
import { ListQuerySchema, listPageSchema } from '../lists';

/** What became of a message: withheld is one that may not be sent, for a reason that stands beside it. */
export const MessageStateSchema = z.enum(['waiting', 'sent', 'failed', 'withheld']);
export type MessageState = z.infer<typeof MessageStateSchema>;

/** One message to a program outside, as the log tells it. */
export const MessageSchema = z.object({
  id: z.string().describe('Sent with it, and the same when it is sent again'),
  event: z.string().describe('Kind of the event it tells of'),
  eventId: z.string(),
  at: z.int().describe('When the event happened, Unix time in milliseconds'),
  state: MessageStateSchema,
  attempts: z.int(),
  status: z.int().nullable().describe('HTTP status of the last answer; null if nobody answered'),
  answer: z.string().nullable().describe('The beginning of the last answer, or why there was none'),
  nextAt: z.int().nullable(),
  body: z.string().nullable().describe('What it says; null before it is first sent'),
});
export type Message = z.infer<typeof MessageSchema>;
export const MessageListQuerySchema = ListQuerySchema.extend({ state: MessageStateSchema.or(z.literal('all')).default('all') });
export type MessageListQuery = z.infer<typeof MessageListQuerySchema>;
export const MessagePageSchema = listPageSchema(MessageSchema);

/** How a receiver is doing. */
export const MessageCountsSchema = z.object({
  sent: z.int().describe('Messages that were taken'),
  waiting: z.int().describe('Messages that are still tried'),
  failed: z.int().describe('Messages that were given up'),
  withheld: z.int().describe('Messages that may not be sent'),
});
export type MessageCounts = z.infer<typeof MessageCountsSchema>;
