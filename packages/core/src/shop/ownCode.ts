import { z } from 'zod';
import { ConsentCategorySchema } from './consent';

const LIMIT = 20_000;
const code = z.string().max(LIMIT, 'Keep own code under 20,000 characters.');

/**
 * Code of the seller's own, put into public pages just as it is written: in the head, at the end of the body, and once
 * after a purchase with the order's values.
 */
export const OwnCodeSchema = z.object({
  head: code,
  body: code,
  purchase: code.optional(),
  needs: z
    .union([z.literal('nothing'), ConsentCategorySchema])
    .optional()
    .describe('What a visitor must have agreed to before it runs, where they are asked; marketing if nothing is said'),
});
export type OwnCode = z.infer<typeof OwnCodeSchema>;
export type CodeNeeds = NonNullable<OwnCode['needs']>;

/** What code waits for where visitors are asked and nobody has said what it is: the strictest. */
export const DEFAULT_NEEDS: CodeNeeds = 'marketing';

const PLACES = ['head', 'body', 'purchase'] as const;

/** Code of one need, from shop, funnel and page. */
export interface JoinedCode extends Required<OwnCode> {
  needs: CodeNeeds;
}

/**
 * The code of shop, funnel and page together, in this order, a piece for each thing that it needs; what nobody has written
 * is left out.
 * @param isAsked whether visitors are asked for their consent; where they are not, all code runs for everybody
 */
export function joinCode(isAsked: boolean, ...codes: Array<OwnCode | undefined | null>): JoinedCode[] {
  const written = codes.filter((each) => each !== undefined && each !== null);
  const needOf = (each: OwnCode): CodeNeeds => (isAsked ? (each.needs ?? DEFAULT_NEEDS) : 'nothing');
  const join = (place: (typeof PLACES)[number], needs: CodeNeeds) =>
    written
      .filter((each) => needOf(each) === needs)
      .map((each) => (each[place] ?? '').trim())
      .filter(Boolean)
      .join('\n');
  return (['nothing', 'statistics', 'marketing'] as const)
    .map((needs) => ({ needs, head: join('head', needs), body: join('body', needs), purchase: join('purchase', needs) }))
    .filter(hasCode);
}

/** Whether any code of the seller's own stands there. */
export const hasCode = (code: OwnCode): boolean => PLACES.some((place) => (code[place] ?? '') !== '');
