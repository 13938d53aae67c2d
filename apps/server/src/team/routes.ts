import { CredentialsSchema, SessionSchema, SetupSchema } from '@ruta/core/team';
import type { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import type { Api } from '../base/api';
import { sendProblem } from '../base/problem';
import type { Services } from '../base/services';
import { findShop } from '../shop/store';
import { currentUser, startSession } from './access';
import { teamLink } from './mark';
import { setUp, signIn } from './service';

const TRIES_PER_WINDOW = 10;
const WINDOW_MS = 5 * 60 * 1000;

/**
 * Signing in and out, and the first set-up.
 * @param onSetUp what a new shop begins with beside its owner
 */
export function teamRoutes(api: Api, router: Router, services: Services, onSetUp: () => Promise<void>): void {
  const { db } = services;
  router.use(
    ['/session', '/setup'],
    rateLimit({
      windowMs: WINDOW_MS,
      limit: TRIES_PER_WINDOW,
      skipSuccessfulRequests: true,
      standardHeaders: 'draft-8',
      legacyHeaders: false,
      handler: (_request, response) => sendProblem(response, 429, 'Too many tries. Wait five minutes, then try again.'),
      skip: (request) => request.method !== 'POST',
    }),
  );

  api.on({ method: 'get', path: '/session', summary: 'Who is signed in', response: SessionSchema, open: true }, ({ request }) => {
    const user = currentUser(services, request) ?? null;
    return {
      user,
      needsSetup: findShop(db) === undefined,
      csrfToken: user ? (request.session.csrfToken ?? null) : null,
      teamLink: user ? teamLink(services) : null,
    };
  });

  api.on({ method: 'post', path: '/session', summary: 'Sign in', body: CredentialsSchema, response: SessionSchema, open: true }, async ({ body, request }) => {
    const user = await signIn(db, body);
    return { user, needsSetup: false, csrfToken: await startSession(request, user), teamLink: teamLink(services) };
  });

  api.on({ method: 'delete', path: '/session', summary: 'Sign out', role: 'viewer' }, ({ request, response }) => {
    return new Promise<void>((resolve, reject) => {
      request.session.destroy((error) => {
        response.clearCookie('ruta.sid');
        return error ? reject(error) : resolve();
      });
    });
  });

  api.on(
    { method: 'post', path: '/setup', summary: 'Create the owner and the shop', body: SetupSchema, response: SessionSchema, open: true },
    async ({ body, request }) => {
      const user = await setUp(services, body);
      await onSetUp();
      return { user, needsSetup: false, csrfToken: await startSession(request, user), teamLink: teamLink(services) };
    },
  );
}
