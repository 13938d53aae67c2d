import { z } from 'zod';
import { armDifferences } from '../experiments';
import type { FactNames } from '../facts';
import type { Graph } from '../funnel';
import { equal } from '../json';
import type { PageDocument } from '../page';

/** One time that a funnel was published: when, by whom, and what visitors found otherwise since. */
export const PublicationSchema = z.object({
  version: z.int(),
  at: z.int().describe('Unix time in milliseconds'),
  by: z.string().nullable().describe('Name of whoever published it; null if that is not known'),
  isLive: z.boolean(),
  changes: z.array(z.object({ step: z.string().nullable(), what: z.array(z.string()) })),
});
export type Publication = z.infer<typeof PublicationSchema>;
export const PublicationListSchema = z.object({
  rows: z.array(PublicationSchema),
  before: z.int().nullable().describe('Ask for those before this version next; null if there are none'),
});
export type PublicationList = z.infer<typeof PublicationListSchema>;
export const PublicationQuerySchema = z.object({ before: z.coerce.number().int().optional().describe('Only versions before this one') });

/** A funnel as it was published. */
export interface Published {
  name: string;
  slug: string;
  giftId: string | null;
  brand?: unknown;
  code?: unknown;
  graph: Graph;
  pages: Record<string, PageDocument>;
}

/** What one publication changed against the one before, step by step, in words; what concerns the whole funnel comes first. */
export function publicationChanges(before: Published, after: Published, names: FactNames): z.infer<typeof PublicationSchema>['changes'] {
  const whole = [
    ...(before.name === after.name ? [] : [`Renamed from “${before.name}” to “${after.name}”`]),
    ...(before.slug === after.slug ? [] : [`Address changed from /${before.slug} to /${after.slug}`]),
    ...(before.giftId === after.giftId ? [] : ['Another gift']),
    ...(equal(before.brand, after.brand) ? [] : ['Look changed']),
    ...(equal(before.code, after.code) ? [] : ['Own code changed']),
    ...(before.graph.entryId === after.graph.entryId ? [] : ['Begins with another step']),
  ];
  const bySteps = new Map<string, { step: string; what: string[] }>();
  for (const { stepId, stop, what } of armDifferences(before, after, names)) {
    const found = bySteps.get(stepId);
    if (found) found.what.push(what);
    else bySteps.set(stepId, { step: stop, what: [what] });
  }
  return [...(whole.length > 0 ? [{ step: null, what: whole }] : []), ...bySteps.values()];
}
