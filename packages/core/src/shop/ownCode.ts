import { z } from 'zod';

const LIMIT = 20_000;
const code = z.string().max(LIMIT, 'Keep own code under 20,000 characters.');

/**
 * Code of the seller's own, put into public pages just as it is written: in the head, at the end of the body, and once
 * after a purchase with the order's values.
 */
export const OwnCodeSchema = z.object({ head: code, body: code, purchase: code.optional() });
export type OwnCode = z.infer<typeof OwnCodeSchema>;

const PLACES = ['head', 'body', 'purchase'] as const;

/** The code of shop, funnel and page together, in this order; what nobody has written is empty. */
export function joinCode(...codes: Array<OwnCode | undefined | null>): Required<OwnCode> {
  const written = codes.filter((each) => each !== undefined && each !== null);
  const join = (place: keyof OwnCode) =>
    written
      .map((each) => (each[place] ?? '').trim())
      .filter(Boolean)
      .join('\n');
  return { head: join('head'), body: join('body'), purchase: join('purchase') };
}

/** Whether any code of the seller's own stands there. */
export const hasCode = (code: OwnCode): boolean => PLACES.some((place) => (code[place] ?? '') !== '');
