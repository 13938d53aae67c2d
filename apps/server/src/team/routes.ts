import type { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { z } from 'zod';
import { connectQuayside } from '../connections/service';
import type { Api } from '../http/api';
import { sendProblem } from '../http/problem';
import type { Services } from '../services';
import { findShop } from '../shop/store';
import { teamLink } from '../site/teamMark';
import { currentUser, startSession } from './access';
import { CredentialsSchema, SetupSchema, setUp, signIn, UserSchema } from './service';

const SessionSchema = z.object({
  user: UserSchema.nullable(),
  needsSetup: z.boolean(),
  csrfToken: z.string().nullable(),
  /** Opened once after sign-in, so that the seller's own visits to the public site do not count. */
  teamLink: z.string().nullable(),
});

const TRIES_PER_WINDOW = 10;
const WINDOW_MS = 5 * 60 * 1000;

/** Signing in and out, and the first set-up. */
export function teamRoutes(api: Api, router: Router, services: Services): void {
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

  api.on({ method: 'delete', path: '/session', summary: 'Sign out' }, ({ request, response }) => {
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
      await connectQuayside(services).catch((error: Error) => {
        // Connecting can be done later under Connections; a shop without a processor is still a shop.
        services.log.warn({ reason: error.message }, 'card processor not connected at set-up');
      });
      return { user, needsSetup: false, csrfToken: await startSession(request, user), teamLink: teamLink(services) };
    },
  );
}
