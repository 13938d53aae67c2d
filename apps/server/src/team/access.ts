import { randomBytes, timingSafeEqual } from 'node:crypto';
import { mayAs, type Role, type User } from '@ruta/core/team';
import type { Request } from 'express';
import session from 'express-session';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { findUser } from './service';
import { SESSION_COOKIE_MS, SessionStore } from './sessionStore';

declare module 'express-session' {
  interface SessionData {
    userId: string;
    csrfToken: string;
    /** When it began, Unix time in milliseconds, and in which browser. */
    since?: number;
    browser?: string;
    /** What an authenticator app was just told, until a code of it comes back. */
    newTwoFactor?: string;
  }
}

export const SESSION_COOKIE = 'ruta.sid';
export const COOKIE_PATH = '/api';

/** Sign-in by a cookie that scripts cannot read. */
export function sessions(services: Services) {
  return session({
    name: SESSION_COOKIE,
    secret: services.secrets.sessionSecret,
    store: new SessionStore(services.db, services.clock),
    resave: false,
    saveUninitialized: false,
    rolling: false,
    cookie: {
      // Cookies know no ports: the public site beside the studio does not get it.
      path: COOKIE_PATH,
      httpOnly: true,
      sameSite: 'strict',
      secure: services.config.studioUrl.startsWith('https:'),
      maxAge: SESSION_COOKIE_MS,
    },
  });
}

/** Who is signed in. */
export function currentUser(services: Services, request: Request): User | undefined {
  return request.session.userId ? findUser(services.db, request.session.userId) : undefined;
}

/** Makes the sign-in's secret that every changing request must repeat. */
export function startSession({ clock }: Pick<Services, 'clock'>, request: Request, user: User): Promise<string> {
  return new Promise((resolve, reject) => {
    // A new session id at sign-in, so that an id planted beforehand is worth nothing.
    request.session.regenerate((error) => {
      if (error) return reject(error);
      request.session.userId = user.id;
      request.session.since = clock.now();
      request.session.browser = (request.get('user-agent') ?? '').slice(0, MOST_LETTERS);
      request.session.csrfToken = randomBytes(24).toString('base64url');
      const { csrfToken } = request.session;
      return request.session.save((failed) => (failed ? reject(failed) : resolve(csrfToken)));
    });
  });
}

const MOST_LETTERS = 300;

const REFUSALS: Record<Role, string> = {
  owner: 'Only the owner of this shop may do this.',
  editor: 'You may look at this shop but not change it.',
  viewer: 'You may not look at this shop.',
};

/** The host of an origin; null for one that is none, such as that of a sandboxed frame. */
const hostOf = (origin: string): string | null => (URL.canParse(origin) ? new URL(origin).host : null);

/**
 * Lets signed-in people through. Requests that change something must repeat the session's token in a header and
 * come from the studio itself: the public site shares the host, so a same-site cookie alone would not be enough.
 * @param role who may do it; by default viewers look and editors change
 * @throws Refusal 401 if nobody is signed in, 403 if the request did not come from the studio or the role may not
 */
export function makeGuard(services: Services) {
  return (request: Request, role?: Role): void => {
    const user = currentUser(services, request);
    if (!user) throw new Refusal(401, 'Sign in first.');
    const isLooking = request.method === 'GET' || request.method === 'HEAD';
    if (!mayAs(user.role, role ?? (isLooking ? 'viewer' : 'editor'))) throw new Refusal(403, REFUSALS[role ?? 'editor']);
    if (isLooking) return;
    const origin = request.get('origin');
    if (origin && origin !== services.config.studioUrl && hostOf(origin) !== request.get('host')) {
      throw new Refusal(403, 'This request did not come from the studio.');
    }
    const expected = Buffer.from(request.session.csrfToken ?? '');
    const given = Buffer.from(request.get('x-csrf-token') ?? '');
    if (expected.length === 0 || expected.length !== given.length || !timingSafeEqual(expected, given)) {
      throw new Refusal(403, 'This request lacks the sign-in’s token. Reload the page.');
    }
  };
}
