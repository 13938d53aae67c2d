import type { IncomingMessage, ServerResponse } from 'node:http';
import type { ArmTag } from '@ruta/core/experiments';
import type { Campaign } from '@ruta/core/facts';
import { PARTNER_PARAMETER } from '@ruta/core/partners';
import { askedCategories, type ConsentChoice, type Mode, mayRun } from '@ruta/core/shop';
import { BROWSER_ID_NAMES, beginsVisit, campaignOf, clickIdsOf, deviceOf, type EventKind, type EventPayload } from '@ruta/core/tracking';
import { isbot } from 'isbot';
import { cookieOf, giveCookie } from '../base/cookies';
import { newId } from '../base/ids';
import { addressOf } from '../base/proxies';
import type { Services } from '../base/services';
import { baseOf } from '../domains/address';
import type { LiveStep } from '../funnel/live';
import { findShop, loadShop } from '../shop/store';
import { isTeam } from '../team/mark';
import { browserIdsOf, CONSENT_COOKIE, cookieValue, FRAMED_COOKIE, giveIds, VISITOR_COOKIE, visitorIdOf } from './browserIds';
import type { Happening } from './happening';
import type { Tracked, VisitorRow } from './recorder';

const COOKIE_MS = 400 * 24 * 60 * 60 * 1000;
const MOST_LETTERS = 200;

/** Whether a page is asked for by a frame. */
export const isFramed = (request: IncomingMessage): boolean => request.headers['sec-fetch-dest'] === 'iframe';
/** Whether it is a frame on another site, or something that such a frame asks. */
export const isFramedElsewhere = (request: IncomingMessage): boolean =>
  (isFramed(request) && request.headers['sec-fetch-site'] === 'cross-site') || cookieOf(request, FRAMED_COOKIE) !== undefined;

/** The word in an address by which somebody counts as the visitor who was led here. */
const FROM = /[?&]ruta_from=([\w-]{8,40})/;

/** What may be kept in the browser that asks. */
interface Keeping {
  /** An id by which it is known again. */
  isKnown: boolean;
  /** As one and the same visitor in the figures. */
  isCounted: boolean;
}

const CONSENT = /^([01])([01])\.([\w-]{1,20})$/;
/** What was agreed to in a browser, by whichever wording; null before any answer. */
function agreedIn(request: IncomingMessage): (ConsentChoice & { wording: string }) | null {
  const given = CONSENT.exec(cookieOf(request, CONSENT_COOKIE) ?? '');
  return given && { statistics: given[1] === '1', marketing: given[2] === '1', wording: given[3] ?? '' };
}

function keepingOf({ db }: Tracked, given: ConsentChoice | null): Keeping {
  const { consent } = loadShop(db).settings;
  const isCounted = mayRun(consent, given, 'statistics');
  return { isCounted, isKnown: isCounted || mayRun(consent, given, 'marketing') };
}

/** Whether a shop asks before it keeps anything, so that visits count before anybody is known. */
function asksFirst({ db }: Tracked): boolean {
  const consent = findShop(db)?.settings.consent;
  // Most shops' visitors are not asked, and every view passes here.
  return consent?.isOn === true && askedCategories(consent).length > 0;
}

/** By what a passing visit is known while it lasts. */
const comingFrom = ({ clock, config }: Tracked, request: IncomingMessage) =>
  [clock, addressOf(config.trusts, request), request.headers['user-agent'] ?? ''] as const;
const passingOf = (services: Tracked, request: IncomingMessage): string => services.recorder.passing.of(...comingFrom(services, request));

/** What pages load; nobody is known or counted by it. */
const LOADED = /^\/(assets|media|embed|video|favicon)/;

/**
 * Says who asks, before anybody looks: where a shop asks for consent and this browser has not agreed to statistics, it counts as
 * a passing visit, whatever it has kept for a cart.
 */
export function knowBrowser(services: Tracked, request: IncomingMessage): void {
  if (!asksFirst(services) || LOADED.test(request.url ?? '') || keepingOf(services, agreedIn(request)).isCounted) return;
  giveIds(request, { own: visitorIdOf(request) ?? null, counted: passingOf(services, request), isPassing: true });
}

/**
 * Gives a browser its first-party id, if it has none and one may be kept there. The id is always a new one; whoever was led
 * here counts as who they were before.
 * @param needed what the visitor asked for cannot be done without: a cart, a form that was sent; then an id is kept until the
 *   browser is closed, whatever was agreed to
 * @param given what has just been agreed to, where that is newer than what the browser says
 * @returns the browser's own id; null where none is kept
 */
export function giveVisitorId(services: Tracked, request: IncomingMessage, response: ServerResponse, needed: true, given?: ConsentChoice | null): string;
export function giveVisitorId(
  services: Tracked,
  request: IncomingMessage,
  response: ServerResponse,
  needed?: boolean,
  given?: ConsentChoice | null,
): string | null;
export function giveVisitorId(
  services: Tracked,
  request: IncomingMessage,
  response: ServerResponse,
  needed = false,
  given?: ConsentChoice | null,
): string | null {
  const ids = browserIdsOf(request);
  const { isKnown, isCounted } = asksFirst(services) ? keepingOf(services, given ?? agreedIn(request)) : { isKnown: true, isCounted: true };
  if (ids?.own && isCounted && !ids.isPassing) return ids.own;
  const now = services.clock.now();
  const word = ids?.own ? undefined : FROM.exec(request.url ?? '')?.[1];
  const led = word && services.recorder.handovers.take(word, addressAsked(services, request), now);
  if (led && !isCounted) services.recorder.passing.goesOnAs(...comingFrom(services, request), led);
  if (!ids?.own && !isKnown && !needed) {
    giveIds(request, { own: null, counted: led || ids?.counted || passingOf(services, request), isPassing: true });
    return null;
  }
  const own = ids?.own ?? newId(services.clock, 'visitor');
  const counted = led || ids?.counted || own;
  giveIds(request, { own, counted, ...(isCounted ? {} : { isPassing: true }) });
  // Of a visit that is forgotten, nothing stands in the cookie.
  const value = isCounted ? cookieValue(own, counted) : own;
  const options = { path: '/', httpOnly: true, ...(isKnown ? { maxAge: COOKIE_MS / 1000 } : {}) };
  // Browsers keep a frame's cookie only if it says that it is for this pair of sites alone.
  if (isFramedElsewhere(request)) giveCookie(response, FRAMED_COOKIE, value, { ...options, sameSite: 'none', secure: true, partitioned: true });
  else giveCookie(response, VISITOR_COOKIE, value, { ...options, sameSite: 'lax', secure: services.config.siteUrl.startsWith('https:') });
  return own;
}

/** The address as it was asked for, before the root of a domain was read as the page that stands there. */
const addressAsked = (services: Services, request: IncomingMessage & { originalUrl?: string }): string =>
  baseOf(services, request) + (request.originalUrl ?? request.url ?? '/');

/**
 * Whether an agent is a known bot. Where the outside services are simulated, a browser without a window is somebody
 * trying the shop; anywhere else it is a machine.
 */
function isKnownBot(services: Services, agent: string): boolean {
  let answer = knownAgents.get(agent);
  if (answer === undefined) {
    answer = isbot(services.config.standinsUrl ? agent.replace('HeadlessChrome', 'Chrome') : agent);
    if (knownAgents.size >= MAX_KNOWN_AGENTS) knownAgents.clear();
    knownAgents.set(agent, answer);
  }
  return answer;
}

/** Answers already found: few agents make most requests, and the list of bots is long. */
const knownAgents = new Map<string, boolean>();
const MAX_KNOWN_AGENTS = 5000;

/** Whether a request is of a browser, and not of a known bot. */
export function isCountedAgent(services: Services, request: IncomingMessage): boolean {
  const agent = request.headers['user-agent'];
  return agent !== undefined && !isKnownBot(services, agent);
}

/** Whether a request counts in the figures: a browser with an id or a passing visit, no known bot, not the shop's own people. */
export function counts(services: Services, request: IncomingMessage): boolean {
  return browserIdsOf(request) !== undefined && isCountedAgent(services, request) && !isTeam(services, request);
}

/**
 * Who browses, as of now: a new visit after 30 minutes of quiet. Also those who do not count, so that what they typed
 * is filled in again. Null for a browser without an id.
 */
export function visitorOf(services: Tracked, request: IncomingMessage, query: Record<string, unknown> = {}): VisitorRow | null {
  const id = visitorIdOf(request);
  return id ? visitorById(services, request, id, query) : null;
}

/** The same of one whose id is known otherwise. */
export function visitorById(services: Tracked, request: IncomingMessage, id: string, query: Record<string, unknown>): VisitorRow {
  const now = services.clock.now();
  const ids = browserIdsOf(request);
  const countsAs = ids?.own === id && ids.counted !== id ? ids.counted : null;
  // Who was led here, or comes by, goes on with what the figures know of them, and with nothing that they typed or agreed to elsewhere.
  const before = ids?.isPassing ? ledHere(services, countsAs) : undefined;
  const own = services.recorder.visitor(id);
  const known =
    own && before ? { ...before, typed: own.typed, contactId: own.contactId, consent: own.consent } : (own ?? before ?? ledHere(services, countsAs));
  const campaign: Campaign | null = campaignOf(query) ?? null;
  const clicks = clickIdsOf(query) ?? null;
  const browserId = cookieOf(request, BROWSER_ID_NAMES[0])?.slice(0, MOST_LETTERS);
  const wants = services.recorder.wants();
  const isNewVisit = beginsVisit(known?.lastAt, now);
  // What was agreed to in this browser holds for its visits, too.
  const agreed = ids?.isPassing ? agreedIn(request) : null;
  const consent = known?.consent ?? (agreed && { ...agreed, at: now });
  const mayKeepTraces = !ids?.isPassing || consent?.marketing === true;
  return {
    id,
    countsAs: countsAs ?? known?.countsAs ?? null,
    contactId: known?.contactId ?? null,
    typed: known?.typed ?? null,
    firstAt: known?.firstAt ?? now,
    lastAt: now,
    visitId: known && !isNewVisit ? known.visitId : newId(services.clock, 'visit'),
    visits: known ? known.visits + Number(isNewVisit) : 1,
    device: deviceOf(request.headers['user-agent'] ?? ''),
    firstCampaign: known ? known.firstCampaign : campaign,
    lastCampaign: campaign ?? known?.lastCampaign ?? null,
    firstClicks: known ? known.firstClicks : clicks,
    lastClicks: browserId ? { ...(clicks ?? known?.lastClicks), sky_browser: browserId } : (clicks ?? known?.lastClicks ?? null),
    address: wants.address && mayKeepTraces ? addressOf(services.config.trusts, request) : null,
    agent: wants.agent && mayKeepTraces ? (request.headers['user-agent']?.slice(0, MOST_LETTERS) ?? null) : null,
    consent,
    partner: cameBy(services, query, now) ?? known?.partner ?? null,
  };
}

function ledHere({ recorder }: Tracked, countsAs: string | null): VisitorRow | undefined {
  const before = countsAs === null ? undefined : recorder.visitor(countsAs);
  return before && { ...before, countsAs, contactId: null, typed: null, consent: null };
}

/** The partner whose link it was; null for none, and for a code that nobody has. */
function cameBy({ recorder }: Tracked, query: Record<string, unknown>, at: number): VisitorRow['partner'] {
  const code = query[PARTNER_PARAMETER];
  const id = typeof code === 'string' && code !== '' ? recorder.partnerWith(code) : null;
  return id === null ? null : { id, at };
}

/** The visitor of a request if it counts in the figures, else null. */
export function countedVisitor(services: Tracked, request: IncomingMessage, query: Record<string, unknown> = {}): VisitorRow | null {
  if (!counts(services, request)) return null;
  const ids = browserIdsOf(request);
  // A visit that is forgotten is nobody's in particular, also where a cart is kept in the browser.
  return ids?.isPassing ? visitorById(services, request, ids.counted, query) : visitorOf(services, request, query);
}

export interface EventPlace<Kind extends EventKind> {
  funnelId?: string | null;
  stepId?: string | null;
  publicationId?: string | null;
  orderId?: string | null;
  contactId?: string | null;
  arms?: readonly ArmTag[] | null;
  data?: EventPayload<Kind>;
}

/** Where something happened: the step as it is live. */
export const placeOf = ({ publication, step, arms }: LiveStep) => ({
  funnelId: publication.funnelId,
  stepId: step.id,
  publicationId: publication.id,
  ...(arms.length > 0 ? { arms } : {}),
});

/** As whom a browser counts in the figures: itself, or whoever was led here; null for nobody counted. */
export const countedIdOf = (visitor: Pick<VisitorRow, 'id' | 'countsAs'> | null): string | null => visitor && (visitor.countsAs ?? visitor.id);

/** An event of a visitor, ready to be recorded. Without a visitor it is kept in the log but counts nowhere. */
export function makeEvent<Kind extends EventKind>(
  services: Pick<Services, 'clock' | 'db'>,
  kind: Kind,
  mode: Mode,
  visitor: VisitorRow | null,
  place: EventPlace<Kind>,
  id = newId(services.clock, 'event'),
): Happening {
  return {
    id,
    at: services.clock.now(),
    kind,
    mode,
    visitorId: countedIdOf(visitor),
    browserId: visitor?.id ?? null,
    visitId: visitor?.visitId ?? null,
    funnelId: place.funnelId ?? null,
    stepId: place.stepId ?? null,
    publicationId: place.publicationId ?? null,
    orderId: place.orderId ?? null,
    contactId: place.contactId ?? visitor?.contactId ?? null,
    device: visitor?.device ?? null,
    campaign: visitor?.lastCampaign ?? null,
    firstCampaign: visitor?.firstCampaign ?? null,
    clicks: visitor?.lastClicks ?? null,
    arms: place.arms && place.arms.length > 0 ? [...place.arms] : null,
    mayTell: mayRun(loadShop(services.db).settings.consent, visitor?.consent, 'marketing'),
    data: place.data ?? {},
  };
}
