import { z } from 'zod';
import { idSchema } from '../ids';

/** Where on a checkout a bump stands, in the order in which a buyer comes to it, with its name as people see it. */
export const BUMP_POSITIONS = {
  top: 'Above everything',
  'after-contact': 'After the contact details',
  summary: 'Before the summary',
  'before-pay': 'Before the pay button',
  'second-stage': 'In the second stage, with the payment',
  'pop-up': 'In a pop-up on pressing pay',
} as const;
export type BumpPosition = keyof typeof BUMP_POSITIONS;

/** How a bump is laid out, with its name as people see it. */
export const BUMP_LAYOUTS = {
  row: 'Row: picture, words, price',
  band: 'Band: a coloured head over the words',
  ticket: 'Ticket: dashed edge, the tick first',
  compact: 'Compact: one line',
  tall: 'Tall: the picture above the words',
} as const;
export type BumpLayout = keyof typeof BUMP_LAYOUTS;

/** Pairs of ground and ink out of the brand, whose contrast is guaranteed. */
export const BUMP_COLOURS = { tint: 'Soft tint', accent: 'Accent edge', main: 'Main colour', plain: 'Plain sheet' } as const;
export type BumpColours = keyof typeof BUMP_COLOURS;

const keys = <T extends Record<string, string>>(names: T) => z.enum(Object.keys(names) as [keyof T & string, ...Array<keyof T & string>]);

/** How a bump looks on its checkout. */
export const BumpLookSchema = z.object({
  position: keys(BUMP_POSITIONS).default('before-pay'),
  layout: keys(BUMP_LAYOUTS).default('row'),
  colours: keys(BUMP_COLOURS).default('tint'),
  pointer: z.boolean().default(false).describe('An arrow that draws the eye to the tick'),
  picture: z
    .discriminatedUnion('kind', [z.object({ kind: z.literal('product') }), z.object({ kind: z.literal('file'), fileId: idSchema('file') })])
    .nullable()
    .default({ kind: 'product' }),
  ticked: z.boolean().default(false).describe('Ticked beforehand, which is unlawful for consumers in many countries'),
});
export type BumpLook = z.infer<typeof BumpLookSchema>;

/** Pictures that bumps have of their own, by their files. */
export const bumpPictureIds = (sells: ReadonlyArray<{ bump: Pick<BumpLook, 'picture'> }>): string[] =>
  sells.flatMap(({ bump: { picture } }) => (picture?.kind === 'file' ? [picture.fileId] : []));
