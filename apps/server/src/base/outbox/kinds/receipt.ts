import { z } from 'zod';
import { outboxKind } from '../outbox';

/** The receipt of an order, written when it is sent so that it tells everything bought by then; or of one addition to it. */
export const receipt = outboxKind({
  kind: 'receipt',
  payload: z.object({ orderId: z.string(), paymentId: z.string().nullable(), to: z.string(), subject: z.string() }),
  words: ({ to, subject }) => ({ to, subject }),
});
