import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Campaign } from '@ruta/core/facts';
import type { Mode } from '@ruta/core/shop';
import { beginsVisit, campaignOf, deviceOf, type EventKind, type EventPayload, type TrackedEvent } from '@ruta/core/tracking';
import { isbot } from 'isbot';
import { cookieOf, giveCookie } from '../base/cookies';
import { newId } from '../base/ids';
import type { Services } from '../base/services';
import { isTeam } from '../team/mark';
import type { Tracked, VisitorRow } from './recorder';

const COOKIE = 'ruta_visitor';
const COOKIE_MS = 400 * 24 * 60 * 60 * 1000;
const ID_SHAPE = /^vis_[0-9a-z]{6,32}$/;

/** The visitor's own id from the cookie, whether or not the visit counts. */
export function visitorIdOf(request: IncomingMessage): string | undefined {
  const id = cookieOf(request, COOKIE);
  return id && ID_SHAPE.test(id) ? id : undefined;
}

/** Gives a browser its first-party id, if it has none. @returns the id */
export function giveVisitorId(services: Services, request: IncomingMessage, response: ServerResponse): string {
  const known = visitorIdOf(request);
  if (known) return known;
  const id = newId(services.clock, 'visitor');
  const secure = services.config.siteUrl.startsWith('https:');
  giveCookie(response, COOKIE, id, { path: '/', httpOnly: true, sameSite: 'lax', maxAge: COOKIE_MS / 1000, secure });
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

/** Whether a request counts in the figures: a browser with an id, no known bot, not the shop's own people. */
export function counts(services: Services, request: IncomingMessage): boolean {
  const agent = request.headers['user-agent'];
  return visitorIdOf(request) !== undefined && agent !== undefined && !isKnownBot(services, agent) && !isTeam(services, request);
}

/**
 * Who browses, as of now: a new visit after 30 minutes of quiet. Also those who do not count, so that what they typed
 * is filled in again. Null for a browser without an id.
 */
export function visitorOf(services: Tracked, request: IncomingMessage, query: Record<string, unknown> = {}): VisitorRow | null {
  const id = visitorIdOf(request);
  if (!id) return null;
  const now = services.clock.now();
  const known = services.recorder.visitor(id);
  const campaign: Campaign | null = campaignOf(query) ?? null;
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
  };
}

/** The visitor of a request if it counts in the figures, else null. */
export function countedVisitor(services: Tracked, request: IncomingMessage, query: Record<string, unknown> = {}): VisitorRow | null {
  return counts(services, request) ? visitorOf(services, request, query) : null;
}

export interface EventPlace<Kind extends EventKind> {
  funnelId?: string | null;
  stepId?: string | null;
  orderId?: string | null;
  contactId?: string | null;
  data?: EventPayload<Kind>;
}

/** An event of a visitor, ready to be recorded. Without a visitor it is kept in the log but counts nowhere. */
export function makeEvent<Kind extends EventKind>(
  services: Pick<Services, 'clock'>,
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
    orderId: place.orderId ?? null,
    contactId: place.contactId ?? visitor?.contactId ?? null,
    device: visitor?.device ?? null,
    campaign: visitor?.lastCampaign ?? null,
    data: place.data ?? {},
  };
}
