import type { IncomingMessage, ServerResponse } from 'node:http';
import type { ArmTag } from '@ruta/core/experiments';
import type { Campaign } from '@ruta/core/facts';
import { PARTNER_PARAMETER } from '@ruta/core/partners';
import { type Mode, mayRun } from '@ruta/core/shop';
import { BROWSER_ID_NAMES, beginsVisit, campaignOf, clickIdsOf, deviceOf, type EventKind, type EventPayload, type TrackedEvent } from '@ruta/core/tracking';
import { isbot } from 'isbot';
import { cookieOf, giveCookie } from '../base/cookies';
import { newId } from '../base/ids';
import { addressOf } from '../base/proxies';
import type { Services } from '../base/services';
import type { LiveStep } from '../funnel/live';
import { loadShop } from '../shop/store';
import { isTeam } from '../team/mark';
import type { Tracked, VisitorRow } from './recorder';

const COOKIE = 'ruta_visitor';
/** The same in a frame on another site: it is another browser's for every site around it. */
const FRAMED_COOKIE = 'ruta_framed';
const COOKIE_MS = 400 * 24 * 60 * 60 * 1000;
const MOST_LETTERS = 200;
const ID_SHAPE = /^vis_[0-9a-z]{6,32}$/;

/** The visitor's own id from the cookie, whether or not the visit counts. */
export function visitorIdOf(request: IncomingMessage): string | undefined {
  const id = cookieOf(request, COOKIE) ?? cookieOf(request, FRAMED_COOKIE);
  return id && ID_SHAPE.test(id) ? id : undefined;
}

/** Whether a page is asked for by a frame. */
export const isFramed = (request: IncomingMessage): boolean => request.headers['sec-fetch-dest'] === 'iframe';
/** Whether it is a frame on another site, or something that such a frame asks. */
export const isFramedElsewhere = (request: IncomingMessage): boolean =>
  (isFramed(request) && request.headers['sec-fetch-site'] === 'cross-site') || cookieOf(request, FRAMED_COOKIE) !== undefined;

/** The word in an address by which somebody is known who comes from a page elsewhere. */
const FROM = /[?&]ruta_from=([\w-]{8,40})/;

/** Gives a browser its first-party id, if it has none: the one it had on a page elsewhere, or a new one. @returns the id */
export function giveVisitorId(services: Tracked, request: IncomingMessage, response: ServerResponse): string {
  const known = visitorIdOf(request);
  if (known) return known;
  const word = FROM.exec(request.url ?? '')?.[1];
  const id = (word && services.recorder.handovers.take(word, services.clock.now())) ?? newId(services.clock, 'visitor');
  const options = { path: '/', httpOnly: true, maxAge: COOKIE_MS / 1000 };
  // Browsers keep a frame's cookie only if it says that it is for this pair of sites alone.
  if (isFramedElsewhere(request)) giveCookie(response, FRAMED_COOKIE, id, { ...options, sameSite: 'none', secure: true, partitioned: true });
  else giveCookie(response, COOKIE, id, { ...options, sameSite: 'lax', secure: services.config.siteUrl.startsWith('https:') });
  return id;
}

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

/** Whether a request counts in the figures: a browser with an id, no known bot, not the shop's own people. */
export function counts(services: Services, request: IncomingMessage): boolean {
  return visitorIdOf(request) !== undefined && isCountedAgent(services, request) && !isTeam(services, request);
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
  const known = services.recorder.visitor(id);
  const campaign: Campaign | null = campaignOf(query) ?? null;
  const clicks = clickIdsOf(query) ?? null;
  const browserId = cookieOf(request, BROWSER_ID_NAMES[0])?.slice(0, MOST_LETTERS);
  const wants = services.recorder.wants();
  const isNewVisit = beginsVisit(known?.lastAt, now);
  return {
    id,
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
    address: wants.address ? addressOf(services.config.trusts, request) : null,
    agent: wants.agent ? (request.headers['user-agent']?.slice(0, MOST_LETTERS) ?? null) : null,
    consent: known?.consent ?? null,
    partner: cameBy(services, query, now) ?? known?.partner ?? null,
  };
}

/** The partner whose link it was; null for none, and for a code that nobody has. */
function cameBy({ recorder }: Tracked, query: Record<string, unknown>, at: number): VisitorRow['partner'] {
  const code = query[PARTNER_PARAMETER];
  const id = typeof code === 'string' && code !== '' ? recorder.partnerWith(code) : null;
  return id === null ? null : { id, at };
}

/** The visitor of a request if it counts in the figures, else null. */
export function countedVisitor(services: Tracked, request: IncomingMessage, query: Record<string, unknown> = {}): VisitorRow | null {
  return counts(services, request) ? visitorOf(services, request, query) : null;
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

/** An event of a visitor, ready to be recorded. Without a visitor it is kept in the log but counts nowhere. */
export function makeEvent<Kind extends EventKind>(
  services: Pick<Services, 'clock' | 'db'>,
  kind: Kind,
  mode: Mode,
  visitor: VisitorRow | null,
  place: EventPlace<Kind>,
  id = newId(services.clock, 'event'),
): TrackedEvent {
  return {
    id,
    at: services.clock.now(),
    kind,
    mode,
    visitorId: visitor?.id ?? null,
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
