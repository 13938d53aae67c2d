import { z } from 'zod';
import { ConditionSchema } from '../conditions';
import { idSchema } from '../ids';
import { newOffer, OfferSchema } from '../offers';
import { OutcomeSchema } from './stepKind';
import { StepKindSchema } from './stepKinds';

/** Part of a public address: small letters, digits and single hyphens. */
export const SlugSchema = z
  .string()
  .trim()
  .min(1, 'Give an address.')
  .max(60, 'Keep the address under 60 characters.')
  .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, 'Use small letters, digits and single hyphens, for example moon-month.');

/** First parts of public addresses that the site needs itself. */
export const RESERVED_SLUGS = [
  'terms',
  'legal',
  'd',
  'e',
  'cart',
  'media',
  'offer',
  'order',
  'pay',
  'robots',
  'sitemap',
  'assets',
  'webhooks',
  'favicon',
  'go',
  'team',
  'leads',
  'video',
  'over',
  'with',
  'consent',
  'outside',
  'embed',
  'api',
];

/** Everything one step sells. Without a default, so that a change which does not speak of it leaves it as it is. */
export const SellsSchema = z.array(OfferSchema).max(40, 'Keep it to forty offers.');

/** The offer of another funnel that a step is: what it says and sells is changed there, and follows here. */
export const SharedFromSchema = z.object({ funnelId: idSchema('funnel'), stepId: idSchema('step') });

export const StepSchema = z.object({
  id: idSchema('step'),
  kind: StepKindSchema,
  name: z.string().trim().min(1, 'Give the stop a name.').max(80, 'Keep the name under 80 characters.'),
  slug: SlugSchema,
  /** What it sells, gives or makes the case for; the first that is no bump is what its page is about. */
  sells: SellsSchema.default([]),
  sharedFrom: SharedFromSchema.optional(),
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

/** More than any funnel has, and few enough for everything that is reckoned of a map. */
export const MOST_STEPS = 300;
export const MOST_ROUTES = 1500;
/** A funnel's steps and routes; `entryId` is where visitors arrive. */
export const GraphSchema = z.object({
  entryId: idSchema('step'),
  steps: z.array(StepSchema).min(1).max(MOST_STEPS, `A funnel has at most ${MOST_STEPS} stops.`),
  routes: z.array(RouteSchema).max(MOST_ROUTES, `A funnel has at most ${MOST_ROUTES} routes.`),
});
export type Graph = z.infer<typeof GraphSchema>;

/** A step as it was stored before steps sold lists: with one product. */
interface StoredStep {
  id: string;
  productId?: string | null;
  sells?: unknown;
}

/** A stored step as the present version has it. Its one offer takes its id from the step, so that it is always the same. */
export function bringUpStep(stored: StoredStep): unknown {
  if (stored.sells !== undefined) return stored;
  const { productId, ...step } = stored;
  return { ...step, sells: productId ? [newOffer(stored.id.replace(/^[a-z]+_/, 'off_'), productId)] : [] };
}

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
