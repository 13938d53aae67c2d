import { z } from 'zod';

const LIMIT = 20_000;
const code = z.string().max(LIMIT, 'Keep own code under 20,000 characters.');

/** Code of the seller's own, put into public pages just as it is written: in the head, and at the end of the body. */
export const OwnCodeSchema = z.object({ head: code, body: code });
export type OwnCode = z.infer<typeof OwnCodeSchema>;

/** The code of shop, funnel and page together, in this order. */
export function joinCode(...codes: Array<OwnCode | undefined | null>): OwnCode {
  const written = codes.filter((each) => each !== undefined && each !== null);
  const join = (place: keyof OwnCode) =>
    written
      .map((each) => each[place].trim())
      .filter(Boolean)
      .join('\n');
  return { head: join('head'), body: join('body') };
}
