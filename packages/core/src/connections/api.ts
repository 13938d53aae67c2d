import { z } from 'zod';

/** An outside service and whether it can be worked with. Its secrets never leave the server. */
export const ConnectionSchema = z.object({
  provider: z.string(),
  connected: z.boolean(),
  account: z.string().nullable(),
  reachable: z.boolean(),
});
export type Connection = z.infer<typeof ConnectionSchema>;
