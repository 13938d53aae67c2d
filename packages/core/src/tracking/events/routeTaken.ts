import { z } from 'zod';
import { eventRecord } from '../record';

export const routeTaken = eventRecord({
  kind: 'route.taken',
  payload: z.object({ routeId: z.string() }),
  words: (_payload, { stop }) => (stop === null ? 'Was led on' : `Was led on from “${stop}”`),
});
