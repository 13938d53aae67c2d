import type { Request, RequestHandler, Response } from 'express';
import { cookieOf } from '../base/cookies';
import { type Limit, personAt } from '../base/limits';
import { sendProblem } from '../base/problem';
import type { Services } from '../base/services';
import { COOKIE_PATH } from './access';

type Needs = Pick<Services, 'secrets' | 'limits' | 'config'>;

const MINUTE_MS = 60_000;
const TRIES: Limit = { name: 'sign-in', most: 10, windowMs: 5 * MINUTE_MS };
const FORGOTTEN: Limit = { name: 'forgotten', most: 6, windowMs: 60 * MINUTE_MS };

const COOKIE = 'ruta.known';
const KNOWN_MS = 400 * 24 * 60 * MINUTE_MS;

const sealOf = ({ secrets }: Pick<Services, 'secrets'>, email: string) => secrets.sign(`known browser of ${email.trim().toLowerCase()}`);
const said = (request: Request): string => {
  const email = (request.body as { email?: unknown } | undefined)?.email;
  return typeof email === 'string' ? email : '';
};

/** Marks a browser as one that somebody has signed in with. It opens nothing by itself. */
export function rememberBrowser(services: Needs, response: Response, email: string): void {
  const secure = services.config.studioUrl.startsWith('https:');
  response.cookie(COOKIE, sealOf(services, email), { path: COOKIE_PATH, httpOnly: true, sameSite: 'strict', secure, maxAge: KNOWN_MS });
}

/**
 * Whose tries are counted together: those of one computer; apart from them those of a browser that has been signed in with
 * this very address, so that nobody keeps an owner out by trying from the same network.
 */
function whoTries(services: Needs, request: Request): string {
  const known = cookieOf(request, COOKIE);
  const email = said(request);
  return known && email && known === sealOf(services, email) ? `known ${known}` : personAt(request.ip);
}

const isTry = (request: Request) => request.method === 'POST' || request.method === 'PUT';

/** Few tries of passwords, codes and links, and few mails that are asked for by one computer. */
export function fewTries(services: Needs): { tries: RequestHandler; forgotten: RequestHandler } {
  const { limits } = services;
  return {
    tries: limits.middleware(TRIES, {
      skipSuccessfulRequests: true,
      keyGenerator: (request) => whoTries(services, request),
      handler: (_request, response) => sendProblem(response, 429, 'Too many tries. Wait five minutes, then try again.'),
      skip: (request) => !isTry(request),
    }),
    forgotten: limits.middleware(FORGOTTEN, {
      handler: (_request, response) => sendProblem(response, 429, 'Too many links were asked for. Look into your mailbox, or try again in an hour.'),
    }),
  };
}
