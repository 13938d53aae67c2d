import { z } from 'zod';
import { PictureInfoSchema } from '../catalog';
import { PageDocumentSchema } from '../page';
import { TaskIdSchema } from '../tasks';

/** What came in, and what of it was missing. */
export const ImportedFunnelSchema = z.object({ funnelId: z.string(), missing: z.array(z.string()) });
export type ImportedFunnel = z.infer<typeof ImportedFunnelSchema>;
export const ImportedPageSchema = z.object({ page: PageDocumentSchema, pictures: z.record(z.string(), PictureInfoSchema), missing: z.array(z.string()) });
export type ImportedPage = z.infer<typeof ImportedPageSchema>;
/** A bundle as it was sent, not read yet: that is done by its own rules, which say what is wrong in words. */
export const SentBundleSchema = z.custom<unknown>().meta({ type: 'object', description: 'A bundle: docs/schemas/bundle.schema.json' });

export const BundleQuerySchema = z.object({ task: TaskIdSchema });
