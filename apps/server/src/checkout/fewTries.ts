import type { Limit } from '../base/limits';

const WINDOW_MS = 10 * 60_000;

/** So many cards of one person may be declined: whoever has a list of numbers tries them elsewhere. */
export const DECLINED_CARDS: Limit = { name: 'cards', most: 10, windowMs: WINDOW_MS };
export const tooManyCards = (shopEmail: string): string =>
  `Too many cards were declined. Wait ten minutes, then try again, or write to ${shopEmail} and we will help. Nothing was charged.`;

/** So many carts one person may begin; a whole office or a phone network behind one address is still let in. */
export const NEW_CARTS: Limit = { name: 'carts', most: 60, windowMs: WINDOW_MS };
export const TOO_MANY_CARTS = 'Too many orders were begun from here in a short time. Wait ten minutes, then press the button again. Nothing was charged.';
