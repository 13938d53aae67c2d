import { z } from 'zod';
import { LineRoleSchema } from '../catalog';

/** Open until its first payment; what is returned later shows in the state. */
export const OrderStateSchema = z.enum(['open', 'paid', 'part-refunded', 'refunded']);
export type OrderState = z.infer<typeof OrderStateSchema>;

/** States in which an order was paid: what was bought belongs to the buyer, less what was given back. */
export const PAID_STATES = ['paid', 'part-refunded', 'refunded'] as const satisfies readonly OrderState[];

/** Shipping is a line as well, so that it can be returned like one. */
export const OrderLineRoleSchema = z.enum([...LineRoleSchema.options, 'shipping']);
export type OrderLineRole = z.infer<typeof OrderLineRoleSchema>;

/** Who bought, as they said it at the checkout. */
export const BuyerSchema = z.object({
  email: z.string(),
  firstName: z.string().default(''),
  lastName: z.string().default(''),
  country: z.string().default(''),
  region: z.string().optional(),
  taxNumber: z.string().optional(),
  address: z.object({ street: z.string(), postcode: z.string(), city: z.string() }).optional().describe('Where parcels go; missing where nothing is sent'),
});
export type Buyer = z.infer<typeof BuyerSchema>;
