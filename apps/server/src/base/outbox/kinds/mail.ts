import { z } from 'zod';
import { outboxKind } from '../outbox';

/** A mail as it waits to be sent. */
export const mail = outboxKind({
  kind: 'mail',
  payload: z.object({
    from: z.string(),
    to: z.string(),
    subject: z.string(),
    html: z.string(),
    text: z.string(),
    test: z.boolean().optional().describe('Goes to the test mailbox'),
    attachments: z.array(z.object({ filename: z.string(), content: z.string(), contentType: z.string() })).optional(),
  }),
  words: ({ to, subject }) => ({ to, subject }),
});
export type Mail = z.infer<typeof mail.payload>;
