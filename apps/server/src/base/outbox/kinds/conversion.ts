import { z } from 'zod';
import { outboxKind } from '../outbox';

/** A conversion that a platform is told of; what it says is kept in the log. */
export const conversion = outboxKind({
  kind: 'conversion',
  payload: z.object({ messageId: z.string(), name: z.string(), event: z.string() }),
  words: ({ name, event }) => ({ to: name, subject: `Conversion ${event}` }),
});
