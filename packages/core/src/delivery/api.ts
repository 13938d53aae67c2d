import { z } from 'zod';

/** What a buyer received with an order. */
export const OrderDeliverySchema = z.object({
  keys: z.array(z.object({ value: z.string(), from: z.string() })),
  links: z.array(z.object({ words: z.string(), url: z.string(), from: z.string() })),
  files: z.array(z.object({ id: z.string(), name: z.string(), downloads: z.int(), maxDownloads: z.int().nullable() })),
});
export type OrderDelivery = z.infer<typeof OrderDeliverySchema>;
