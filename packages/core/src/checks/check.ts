import { z } from 'zod';
import type { Product } from '../catalog';
import type { Graph, Step } from '../funnel';
import type { PageDocument } from '../page';
import type { ShopTables } from '../pricing';
import type { Shop } from '../shop';

/** Blocking keeps a funnel from being published; a warning does not. */
export const SeveritySchema = z.enum(['blocking', 'warning']);

/** A place on a page that a problem is about, to go there. */
export const PassageSchema = z.object({ elementId: z.string(), text: z.string() });
export type Passage = z.infer<typeof PassageSchema>;

/** A problem of a funnel: what, where, and how bad it is. */
export const ProblemSchema = z.object({
  check: z.string(),
  stepId: z.string().nullable(),
  message: z.string(),
  severity: SeveritySchema,
  passages: z.array(PassageSchema).optional().describe('The places on the page that it is about'),
});
export type Problem = z.infer<typeof ProblemSchema>;

/** Everything that checks look at. */
export interface CheckedFunnel {
  graph: Graph;
  pages: Record<string, PageDocument>;
  /** Every product that a step names, and the parts of bundles, by id. */
  products: Record<string, Product>;
  shop: ShopTables & { settings: Shop };
  /** The names of all other products of the shop: pages that name them may be left over from another funnel. */
  otherNames: readonly string[];
  /** Steps of other funnels that conditions ask for and that are still there. */
  otherSteps: readonly string[];
  /** Domains that are to open on it and do not lead here yet. */
  waitingDomains: readonly string[];
  /** Whether somebody can pay by card in the shop's present mode. */
  takesCards: boolean;
}

/** One step as checks look at it. */
export interface CheckedStep {
  step: Step;
  page: PageDocument;
  /** What it is about; undefined if nothing is named, or what is named is gone. */
  product: Product | undefined;
  funnel: CheckedFunnel;
}

/**
 * One thing that can be wrong with a step. A further check is one more file with one of these, and its name in the tuple
 * of `registry.ts`.
 */
export interface Check {
  check: string;
  severity: z.infer<typeof SeveritySchema>;
  /** What is wrong, each in words that say how to mend it; with its places where it is about some of the page. */
  find: (at: CheckedStep) => Array<string | Found>;
}

/** What a check found, with the places on the page. */
export type Found = Pick<Problem, 'message' | 'passages'>;
