import type { IncomingMessage } from 'node:http';
import type { Request, Response } from 'express';
import { cookieOf } from '../base/cookies';
import type { Services } from '../base/services';

/**
 * The studio and the public site are two origins. After sign-in the studio opens a signed link on the site once,
 * which leaves a signed cookie there: visits with it belong to the shop's own people and do not count.
 */
const COOKIE = 'ruta_team';
const LINK_MS = 5 * 60 * 1000;
const MARK_MS = 14 * 24 * 60 * 60 * 1000;

type Needs = Pick<Services, 'secrets' | 'clock' | 'config'>;

const mark = (services: Needs, purpose: string, until: number) => `${until}.${services.secrets.sign(`${purpose} ${until}`)}`;

function holds(services: Needs, purpose: string, text: string | undefined): boolean {
  const [until = '', signature = ''] = (text ?? '').split('.');
  return Number(until) > services.clock.now() && services.secrets.verify(`${purpose} ${until}`, signature);
}

/** The address on the public site that marks this browser as the team's. */
export function teamLink(services: Needs, base = services.config.siteUrl): string {
  return `${base}/team?mark=${mark(services, 'team-link', services.clock.now() + LINK_MS)}`;
}

/** Answers the link above. */
export function handleTeamLink(services: Needs, request: Request, response: Response): void {
  if (holds(services, 'team-link', String(request.query.mark ?? ''))) {
    response.cookie(COOKIE, mark(services, 'team', services.clock.now() + MARK_MS), {
      httpOnly: true,
      sameSite: 'lax',
      secure: services.config.siteUrl.startsWith('https:'),
      maxAge: MARK_MS,
    });
  }
  const to = request.query.to;
  response.set('cache-control', 'no-store');
  // Only a path of this very site, so that nobody is led astray by an address of the shop.
  if (typeof to === 'string' && /^\/(?![/\\])/.test(to)) response.redirect(303, to);
  else response.status(204).end();
}

/** Whether a request comes from the shop's own people. */
export function isTeam(services: Needs, request: IncomingMessage): boolean {
  return holds(services, 'team', cookieOf(request, COOKIE));
}
