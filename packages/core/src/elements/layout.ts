import { z } from 'zod';

/** The sizes of screen for which a part can differ: up to 720 px, up to 1023 px, and everything wider. */
export const SCREEN_SIZES = ['phone', 'tablet', 'desktop'] as const;
export type ScreenSize = (typeof SCREEN_SIZES)[number];

const PHONE_UP_TO = 720;
const TABLET_UP_TO = 1023;

/** The size that a screen of so many CSS pixels falls under. */
export const screenAt = (width: number): ScreenSize => (width <= PHONE_UP_TO ? 'phone' : width <= TABLET_UP_TO ? 'tablet' : 'desktop');

/** How a part differs on one size of screen; what is left out is as on every other. */
export const SizeChangeSchema = z.object({
  hide: z.literal(true).optional(),
  order: z.int().min(-200).max(200).optional().describe('Place among what stands beside it'),
  scale: z.enum(['smaller', 'larger']).optional(),
  space: z.enum(['none', 'small', 'large']).optional().describe('Space above it'),
  align: z.enum(['start', 'center', 'end']).optional(),
});
export type SizeChange = z.infer<typeof SizeChangeSchema>;

export const SizesSchema = z.object({
  phone: SizeChangeSchema.optional(),
  tablet: SizeChangeSchema.optional(),
  desktop: SizeChangeSchema.optional(),
});
export type Sizes = z.infer<typeof SizesSchema>;

/** How an element stands in its column, whatever its type. */
export const LayoutSchema = z.object({
  space: z.enum(['none', 'small', 'large']).optional().describe('Space above it'),
  scale: z.enum(['smaller', 'larger']).optional(),
  align: z.enum(['start', 'center', 'end']).optional(),
  width: z.enum(['third', 'half', 'two-thirds']).optional().describe('Share of its column; all of it on a phone'),
  panel: z.enum(['sheet', 'line', 'tint', 'accent']).optional().describe('What it stands on'),
  sizes: SizesSchema.optional(),
});
export type Layout = z.infer<typeof LayoutSchema>;

/** A change of one size put into what is there; a size without any is left out. */
export function withSizeChange(sizes: Sizes | undefined, size: ScreenSize, changes: SizeChange): Sizes | undefined {
  const merged = Object.fromEntries(Object.entries({ ...sizes?.[size], ...changes }).filter(([, value]) => value !== undefined)) as SizeChange;
  const { [size]: _old, ...others } = sizes ?? {};
  const next = Object.keys(merged).length > 0 ? { ...others, [size]: merged } : others;
  return Object.keys(next).length > 0 ? next : undefined;
}
