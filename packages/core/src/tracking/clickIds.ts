import { z } from 'zod';

/** What a platform's pixel has given the browser, by the name of its cookie on the shop's own pages. */
export const BROWSER_ID_NAMES = ['sky_browser'] as const;

/**
 * What ad platforms put into the address of a page when an ad was pressed, by the name in the address. A further platform
 * is one more line here.
 */
export const CLICK_ID_NAMES = { sky_click: 'Skylark', click_id: 'any other' } as const;
export type ClickIdName = keyof typeof CLICK_ID_NAMES;

const MOST_LETTERS = 200;

export const ClickIdsSchema = z.partialRecord(
  z.enum([...(Object.keys(CLICK_ID_NAMES) as [ClickIdName, ...ClickIdName[]]), ...BROWSER_ID_NAMES]),
  z.string().max(MOST_LETTERS),
);
export type ClickIds = z.infer<typeof ClickIdsSchema>;

/** The click ids in an address; undefined if there are none. One that is too long is none: cut, it would be another. */
export function clickIdsOf(query: Record<string, unknown>): ClickIds | undefined {
  const found: ClickIds = {};
  for (const name of Object.keys(CLICK_ID_NAMES) as ClickIdName[]) {
    const value = query[name];
    if (typeof value === 'string' && value !== '' && value.length <= MOST_LETTERS) found[name] = value;
  }
  return Object.keys(found).length > 0 ? found : undefined;
}
