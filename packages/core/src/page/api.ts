import { z } from 'zod';
import { PictureInfoSchema } from '../catalog';
import { PageDocumentSchema } from './page';

/** A page's draft, to be edited. */
export const StepPageSchema = z.object({ stepId: z.string(), revision: z.int(), page: PageDocumentSchema, pictures: z.record(z.string(), PictureInfoSchema) });
export type StepPage = z.infer<typeof StepPageSchema>;

export const DraftSchema = z.object({ revision: z.int(), page: PageDocumentSchema });
export const RevisionSchema = z.object({ revision: z.int() });

/** A picture that was uploaded, with the name it came by. */
export const UploadedPictureSchema = PictureInfoSchema.extend({ name: z.string() });
export type UploadedPicture = z.infer<typeof UploadedPictureSchema>;
