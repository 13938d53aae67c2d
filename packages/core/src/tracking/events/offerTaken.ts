import { z } from 'zod';
import { LineRoleSchema } from '../../catalog';
import { atStop, eventRecord } from '../record';

export const offerTaken = eventRecord({
  kind: 'offer.taken',
  payload: z.object({ offerId: z.string(), role: LineRoleSchema, value: z.int().describe('Goods without tax and shipping, minor units') }),
  words: ({ role, value }, { stop, money }) => `Took ${role === 'bump' ? 'a bump' : `an offer`}${atStop({ stop, money })}: ${money(value)}`,
});
