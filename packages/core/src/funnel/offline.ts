import { z } from 'zod';

/** Where visitors of a funnel that was taken offline are led: to a step of another funnel, to any address, or to a message. */
export const OfflinePageSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('message'), words: z.string().trim().max(400, 'Keep the message under 400 characters.').default('') }),
  z.object({ kind: z.literal('step'), stepId: z.string().min(1, 'Choose a page.') }),
  z.object({
    kind: z.literal('address'),
    url: z.url({ protocol: /^https?$/, error: 'Enter a whole web address, beginning with https://.' }).max(2000, 'Keep the address under 2,000 characters.'),
  }),
]);
export type OfflinePage = z.infer<typeof OfflinePageSchema>;

/** A funnel that is published and that nobody is shown, since when, and what they are shown instead. */
export const OfflineSchema = z.object({ at: z.int().describe('Unix time in milliseconds'), page: OfflinePageSchema });
export type Offline = z.infer<typeof OfflineSchema>;

/** Takes a funnel offline, or puts it online again. */
export const OfflineChangeSchema = z.object({ page: OfflinePageSchema.nullable().describe('Null puts it online again') });

/** What a visitor reads where the seller wrote nothing. */
export const OFFLINE_WORDS = 'This page is not available at the moment.';
