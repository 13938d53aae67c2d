import {
  CredentialsSchema,
  ForgottenSchema,
  NewTwoFactorSchema,
  PasswordChangeSchema,
  RecoveryCodesSchema,
  ResetSchema,
  SessionSchema,
  SetupSchema,
  SignedInSchema,
  TwoFactorOffSchema,
  TwoFactorOnSchema,
  TwoFactorSchema,
} from '@ruta/core/team';
import type { Request, Router } from 'express';
import { z } from 'zod';
import type { Api } from '../base/api';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { isOwnAddress } from '../domains/address';
import { findShop } from '../shop/store';
import { COOKIE_PATH, currentUser, SESSION_COOKIE, startSession } from './access';
import { changePassword, endSession, resetPassword, sendReset, sessionsOf } from './account';
import { teamLink } from './mark';
import { setUp, signIn } from './service';
import { fewTries, rememberBrowser } from './tries';
import { beginTwoFactor, turnTwoFactorOff, turnTwoFactorOn, twoFactorOf } from './twoFactor';

/**
 * Signing in and out, and the first set-up.
 * @param onSetUp what a new shop begins with beside its owner
 */
export function teamRoutes(api: Api, router: Router, services: Services, onSetUp: () => Promise<void>): void {
  const { db } = services;
  const { tries, forgotten } = fewTries(services);
  router.use(['/session', '/setup', '/account'], tries);
  router.post('/session/forgotten', forgotten);

  api.on(
    { method: 'get', path: '/open', summary: 'Open a page of the shop so that the visit does not count', query: z.object({ to: z.string().max(2000) }) },
    ({ query, response }) => {
      if (!isOwnAddress(services, query.to)) throw new Refusal(400, 'This is not an address of the shop.');
      const { origin, pathname, search } = new URL(query.to);
      response.redirect(303, `${teamLink(services, origin)}&to=${encodeURIComponent(pathname + search)}`);
    },
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

  api.on(
    { method: 'post', path: '/session', summary: 'Sign in', body: CredentialsSchema, response: SessionSchema, open: true },
    async ({ body, request, response }) => {
      const user = await signIn(services, body);
      rememberBrowser(services, response, user.email);
      return { user, needsSetup: false, csrfToken: await startSession(services, request, user), teamLink: teamLink(services) };
    },
  );

  api.on({ method: 'delete', path: '/session', summary: 'Sign out', role: 'viewer' }, ({ request, response }) => {
    return new Promise<void>((resolve, reject) => {
      request.session.destroy((error) => {
        response.clearCookie(SESSION_COOKIE, { path: COOKIE_PATH });
        return error ? reject(error) : resolve();
      });
    });
  });

  api.on(
    {
      method: 'post',
      path: '/session/forgotten',
      summary: 'Have a link sent by which a new password is chosen',
      body: ForgottenSchema,
      response: z.object({}),
      open: true,
    },
    ({ body }) => {
      sendReset(services, body.email);
      // The same whether or not somebody has this address.
      return {};
    },
  );
  api.on(
    { method: 'post', path: '/session/reset', summary: 'Choose a new password by a link that was sent', body: ResetSchema, response: z.object({}), open: true },
    async ({ body }) => {
      await resetPassword(services, body);
      return {};
    },
  );
  const signedIn = (request: Request) => {
    const user = currentUser(services, request);
    if (!user) throw new Refusal(401, 'Sign in first.');
    return { user, sessionId: request.sessionID };
  };
  api.on({ method: 'get', path: '/account/sessions', summary: 'Where one is signed in', response: z.array(SignedInSchema), role: 'viewer' }, ({ request }) => {
    const { user, sessionId } = signedIn(request);
    return sessionsOf(services, user.id, sessionId);
  });
  api.on(
    { method: 'delete', path: '/account/sessions/:id', summary: 'Sign a browser out', response: z.array(SignedInSchema), role: 'viewer' },
    ({ params, request }) => {
      const { user, sessionId } = signedIn(request);
      return endSession(services, user.id, sessionId, params.id ?? '');
    },
  );
  api.on(
    {
      method: 'put',
      path: '/account/password',
      summary: 'Change one’s password',
      body: PasswordChangeSchema,
      response: z.array(SignedInSchema),
      role: 'viewer',
    },
    async ({ body, request }) => {
      const { user, sessionId } = signedIn(request);
      await changePassword(services, user.id, sessionId, body);
      return sessionsOf(services, user.id, sessionId);
    },
  );

  api.on(
    { method: 'get', path: '/account/two-factor', summary: 'Whether one’s sign-in asks for a code', response: TwoFactorSchema, role: 'viewer' },
    ({ request }) => twoFactorOf(services, signedIn(request).user.id),
  );
  api.on(
    {
      method: 'post',
      path: '/account/two-factor/begin',
      summary: 'Make what an authenticator app is to be told',
      response: NewTwoFactorSchema,
      role: 'viewer',
    },
    async ({ request }) => {
      const begun = await beginTwoFactor(services, signedIn(request).user.email);
      request.session.newTwoFactor = begun.secret;
      return begun;
    },
  );
  api.on(
    {
      method: 'post',
      path: '/account/two-factor',
      summary: 'Have codes asked for at sign-in',
      body: TwoFactorOnSchema,
      response: RecoveryCodesSchema,
      role: 'viewer',
    },
    async ({ body, request }) => {
      const { user, sessionId } = signedIn(request);
      const recoveryCodes = await turnTwoFactorOn(services, { userId: user.id, sessionId }, { ...body, secret: request.session.newTwoFactor });
      delete request.session.newTwoFactor;
      return { recoveryCodes };
    },
  );
  api.on(
    {
      method: 'put',
      path: '/account/two-factor/off',
      summary: 'Have no codes asked for any more',
      body: TwoFactorOffSchema,
      response: TwoFactorSchema,
      role: 'viewer',
    },
    async ({ body, request }) => {
      const { user } = signedIn(request);
      await turnTwoFactorOff(services, user.id, body.password);
      return twoFactorOf(services, user.id);
    },
  );

  api.on(
    { method: 'post', path: '/setup', summary: 'Create the owner and the shop', body: SetupSchema, response: SessionSchema, open: true },
    async ({ body, request, response }) => {
      const user = await setUp(services, body);
      await onSetUp();
      rememberBrowser(services, response, user.email);
      return { user, needsSetup: false, csrfToken: await startSession(services, request, user), teamLink: teamLink(services) };
    },
  );
}
