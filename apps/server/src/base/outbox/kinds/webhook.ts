import { z } from 'zod';
import { outboxKind } from '../outbox';

/** A message to a program outside; what it says is kept in the log. */
export const webhook = outboxKind({
  kind: 'webhook',
  payload: z.object({ messageId: z.string(), name: z.string(), event: z.string() }),
  words: ({ name, event }) => ({ to: name, subject: `Webhook ${event}` }),
});
