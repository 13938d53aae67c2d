import { z } from 'zod';
import { outboxKind } from '../outbox';

/** A captured charge that pays for nothing and is given back. */
export const voidCharge = outboxKind({
  kind: 'void-charge',
  tireless: true,
  payload: z.object({ chargeId: z.string() }),
  words: () => ({ to: 'the card processor', subject: 'Give back a charge that pays for nothing' }),
});
