import { z } from 'zod';
import { LineRoleSchema } from '../../catalog';
import { atStop, eventRecord } from '../record';

export const offerShown = eventRecord({
  kind: 'offer.shown',
  payload: z.object({ offerId: z.string(), role: LineRoleSchema }),
  words: (_payload, place) => `Was shown an offer${atStop(place)}`,
});
