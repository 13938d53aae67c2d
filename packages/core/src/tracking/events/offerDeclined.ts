import { z } from 'zod';
import { LineRoleSchema } from '../../catalog';
import { atStop, eventRecord } from '../record';

export const offerDeclined = eventRecord({
  kind: 'offer.declined',
  payload: z.object({ offerId: z.string(), role: LineRoleSchema }),
  words: (_payload, place) => `Said no to an offer${atStop(place)}`,
});
