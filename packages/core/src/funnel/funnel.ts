import { z } from 'zod';
import { ConditionSchema } from '../conditions';
import { idSchema } from '../ids';

export const StepKindSchema = z.enum(['opt-in', 'sales', 'checkout', 'offer', 'thank-you']);
export type StepKind = z.infer<typeof StepKindSchema>;

/** How a visitor can leave a step. */
export const OutcomeSchema = z.enum(['next', 'submitted', 'paid', 'accepted', 'declined', 'closed']);
export type Outcome = z.infer<typeof OutcomeSchema>;

/** The outcome that is a step's goal, and the word for it in figures. */
export const STEP_GOALS: Record<StepKind, { outcome: Outcome; reached: string }> = {
  'opt-in': { outcome: 'submitted', reached: 'left an address' },
  sales: { outcome: 'next', reached: 'went on' },
  checkout: { outcome: 'paid', reached: 'paid' },
  offer: { outcome: 'accepted', reached: 'said yes' },
  'thank-you': { outcome: 'next', reached: 'fetched files' },
};

/** Part of a public address: small letters, digits and single hyphens. */
export const SlugSchema = z
  .string()
  .trim()
  .min(1, 'Give an address.')
  .max(60, 'Keep the address under 60 characters.')
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'Use small letters, digits and single hyphens, for example moon-month.');

/** First parts of public addresses that the site needs itself. */
export const RESERVED_SLUGS = ['d', 'e', 'media', 'order', 'pay', 'robots', 'sitemap', 'assets', 'webhooks', 'favicon', 'go', 'team'];

export const StepSchema = z.object({
  id: idSchema('step'),
  kind: StepKindSchema,
  name: z.string().trim().min(1, 'Give the stop a name.').max(80, 'Keep the name under 80 characters.'),
  slug: SlugSchema,
  productId: idSchema('product').nullable(),
});
export type Step = z.infer<typeof StepSchema>;

export const RouteSchema = z.object({
  id: idSchema('route'),
  from: idSchema('step'),
  outcome: OutcomeSchema,
  condition: ConditionSchema.optional(),
  /** Lower comes first. */
  priority: z.int(),
  to: idSchema('step'),
});
export type Route = z.infer<typeof RouteSchema>;

/** A funnel's steps and routes; `entryId` is where visitors arrive. */
export const GraphSchema = z.object({ entryId: idSchema('step'), steps: z.array(StepSchema).min(1), routes: z.array(RouteSchema) });
export type Graph = z.infer<typeof GraphSchema>;

/** Makes an address part from a name: `Moon Month, a calendar` → `moon-month-a-calendar`. Empty if nothing is left. */
export function slugify(name: string): string {
  return name
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60)
    .replace(/-+$/, '');
}
