import { z } from 'zod';
import { atStop, eventRecord } from '../record';

export const checkoutStarted = eventRecord({
  kind: 'checkout.started',
  payload: z.object({}),
  words: (_payload, place) => `Began the checkout${atStop(place)}`,
});
