import { z } from 'zod';
import { atStop, eventRecord } from '../record';

export const routeTaken = eventRecord({
  kind: 'route.taken',
  payload: z.object({ routeId: z.string() }),
  words: (_payload, place) => `Was led on${atStop(place)}`,
});
