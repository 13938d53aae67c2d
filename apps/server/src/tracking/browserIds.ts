import type { IncomingMessage } from 'node:http';
import { cookieOf } from '../base/cookies';

export const VISITOR_COOKIE = 'ruta_visitor';
/** The same in a frame on another site: it is another browser's for every site around it. */
export const FRAMED_COOKIE = 'ruta_framed';

/** What was answered to the question for consent; the page's script reads it. */
export const CONSENT_COOKIE = 'ruta_consent';

/** Who a browser is. */
export interface BrowserIds {
  /** Its own: carts, orders and what was typed belong to it alone. Null where nothing is kept in it. */
  own: string | null;
  /** As whom it counts in the figures: itself, whoever was led here from another domain or from a page elsewhere, or a passing visit. */
  counted: string;
  /** Nobody has agreed to be known again: it counts as a visit that is forgotten once it is over. */
  isPassing?: boolean;
}

/** `vis_own`, or `vis_own.vis_counted` where it counts as somebody led here. */
const SHAPE = /^(vis_[0-9a-z]{6,32})(?:\.(vis_[0-9a-z]{6,32}))?$/;

/** What browsers were given with the answer to this very request: their cookie comes with the next one only. */
const justGiven = new WeakMap<IncomingMessage, BrowserIds>();

export const giveIds = (request: IncomingMessage, ids: BrowserIds): void => {
  justGiven.set(request, ids);
};

export const cookieValue = (own: string, counted: string): string => (own === counted ? own : `${own}.${counted}`);

/** The ids of the browser that asks, whether or not its visit counts; undefined for one that keeps none. */
export function browserIdsOf(request: IncomingMessage): BrowserIds | undefined {
  const given = justGiven.get(request);
  if (given) return given;
  const found = SHAPE.exec(cookieOf(request, VISITOR_COOKIE) ?? cookieOf(request, FRAMED_COOKIE) ?? '');
  return found?.[1] === undefined ? undefined : { own: found[1], counted: found[2] ?? found[1] };
}

/** The browser's own id, which is what its rights go by; undefined for one that keeps none. */
export const visitorIdOf = (request: IncomingMessage): string | undefined => browserIdsOf(request)?.own ?? undefined;
