import { z } from 'zod';
import { LaterPaymentSchema } from '../pricing';

/** What the plans of an order go on owing, quoted now: the next payments, and whether there is an end. */
export const UpcomingSchema = z.object({ currency: z.string(), payments: z.array(LaterPaymentSchema), endless: z.boolean() });
export type Upcoming = z.infer<typeof UpcomingSchema>;
