import { z } from 'zod';
import { LineRoleSchema } from '../../catalog';
import { eventRecord } from '../record';

export const cartAdded = eventRecord({
  kind: 'cart.added',
  payload: z.object({
    productId: z.string(),
    name: z.string(),
    role: LineRoleSchema,
    quantity: z.int(),
    value: z.int().describe('Of the line after discounts, as the shop’s prices are, minor units'),
  }),
  words: ({ name, role }) => `Put ${role === 'bump' ? 'the bump ' : ''}“${name}” into the cart`,
});
