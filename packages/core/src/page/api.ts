import { z } from 'zod';
import { PictureInfoSchema } from '../catalog';
import { idSchema } from '../ids';
import { PageDocumentSchema, SectionSchema } from './page';

/** A page's draft, to be edited. */
export const StepPageSchema = z.object({ stepId: z.string(), revision: z.int(), page: PageDocumentSchema, pictures: z.record(z.string(), PictureInfoSchema) });
export type StepPage = z.infer<typeof StepPageSchema>;

export const DraftSchema = z.object({ revision: z.int(), page: PageDocumentSchema });
export const RevisionSchema = z.object({ revision: z.int() });

/** A picture that was uploaded, with the name it came by. */
export const UploadedPictureSchema = PictureInfoSchema.extend({ name: z.string() });
export type UploadedPicture = z.infer<typeof UploadedPictureSchema>;

/** A version of a page to go back to: one that somebody gave a name, or what was live. */
export const PageVersionSchema = z.object({
  id: z.string().describe('Of a named version, or `live-` with the number it was published with'),
  name: z.string(),
  at: z.int(),
  isLive: z.boolean(),
});
export type PageVersion = z.infer<typeof PageVersionSchema>;
export const NewPageVersionSchema = z.object({ name: z.string().trim().min(1, 'Give the version a name.').max(80), page: PageDocumentSchema });
export const PageVersionDetailSchema = PageVersionSchema.extend({ page: PageDocumentSchema, pictures: z.record(z.string(), PictureInfoSchema) });
export type PageVersionDetail = z.infer<typeof PageVersionDetailSchema>;

/** A section of one's own, to be used again: copied, or linked so that a change reaches every page that shows it. */
export const OwnSectionSchema = z.object({
  id: idSchema('ownSection'),
  name: z.string(),
  section: SectionSchema,
  pages: z.int().describe('How many drafts show it linked'),
  pictures: z.record(z.string(), PictureInfoSchema),
});
export type OwnSection = z.infer<typeof OwnSectionSchema>;
export const NewOwnSectionSchema = z.object({
  id: idSchema('ownSection'),
  name: z.string().trim().min(1, 'Give the section a name.').max(60),
  section: SectionSchema,
});
