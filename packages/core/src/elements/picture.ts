import { z } from 'zod';
import { idSchema } from '../ids';
import { ActionSchema } from './action';
import { DRAWING_NAMES } from './drawings';
import { elementRecord } from './record';
import { WordsSchema } from './words';

/** Where a picture comes from: an uploaded file, a drawing that ships with Ruta, or the picture of the step's product. */
export const PictureSourceSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('file'), fileId: idSchema('file') }),
  z.object({ kind: z.literal('drawing'), name: z.enum(DRAWING_NAMES) }),
  z.object({ kind: z.literal('product') }),
  z.object({ kind: z.literal('gift') }),
]);
export type PictureSource = z.infer<typeof PictureSourceSchema>;

const share = z.number().min(0).max(1);

/** The point that stays in sight when a picture is cut to a shape, as shares of its width and height. */
export const FocusSchema = z.object({ x: share, y: share });
export type Focus = z.infer<typeof FocusSchema>;

/** The part of a picture that is shown, as shares of its width and height. */
export const CropSchema = z
  .object({ x: share, y: share, width: z.number().min(0.02).max(1), height: z.number().min(0.02).max(1) })
  .refine(({ x, y, width, height }) => x + width <= 1.001 && y + height <= 1.001, 'What is shown must lie within the picture.');
export type Crop = z.infer<typeof CropSchema>;

/** Shapes a picture can be cut to; all but the natural one have proportions of their own. */
export const PICTURE_SHAPES = ['natural', 'wide', 'square', 'tall', 'round', 'arch', 'petal', 'slant'] as const;
export type PictureShape = (typeof PICTURE_SHAPES)[number];

/** Width divided by height of each shape; the natural one has the picture's own. */
export const SHAPE_RATIOS: Record<PictureShape, number | null> = {
  natural: null,
  wide: 16 / 9,
  square: 1,
  tall: 4 / 5,
  round: 1,
  arch: 4 / 5,
  petal: 1,
  slant: 4 / 3,
};

export const picture = elementRecord('picture', {
  source: PictureSourceSchema.nullable(),
  alt: z.string().max(250, 'Keep the text alternative under 250 characters.'),
  shape: z.enum(PICTURE_SHAPES),
  focus: FocusSchema.optional(),
  crop: CropSchema.optional(),
  caption: WordsSchema.optional(),
  action: ActionSchema.optional().describe('Where a press on it leads'),
})({
  name: 'Picture',
  create: () => ({ source: null, alt: '', shape: 'natural' }),
  words: ({ caption }) => (caption ? [['caption']] : []),
});
