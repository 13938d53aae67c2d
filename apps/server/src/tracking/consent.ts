import { createHash } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { type AskedConsent, askedCategories, askedConsent, ConsentChoiceSchema } from '@ruta/core/shop';
import express, { Router } from 'express';
import { z } from 'zod';
import { giveCookie } from '../base/cookies';
import { newId } from '../base/ids';
import { loadShop } from '../shop/store';
import { CONSENT_COOKIE } from './browserIds';
import type { Tracked } from './recorder';
import { consents, consentWordings } from './tables';
import { giveVisitorId, isFramedElsewhere, visitorById } from './visitor';

/** After so long whoever answered is asked again. */
const KEPT_SECONDS = 180 * 24 * 60 * 60;
const ANSWERS_PER_MINUTE = 60;

/** The fingerprint of a wording: whatever of it changes, it is another question. */
export const wordingOf = (settings: AskedConsent): string => createHash('sha256').update(JSON.stringify(settings)).digest('base64url').slice(0, 10);

const AnswerSchema = ConsentChoiceSchema.extend({ wording: z.string().max(20), page: z.string().max(300) });

/** Takes the answers of visitors. */
export function consentSite(services: Tracked): Router {
  const router = Router();
  const limit = services.limits.middleware({ name: 'consents', most: ANSWERS_PER_MINUTE, windowMs: 60_000 }, { message: 'Wait a minute, then try again.' });
  router.post('/consent', limit, express.json({ limit: '2kb' }), (request, response) => {
    const answer = AnswerSchema.safeParse(request.body);
    if (!answer.success) return response.status(400).json({ message: 'This is no answer to the question for consent.' });
    return response.status(keepAnswer(services, request, response, answer.data) ? 204 : 409).end();
  });
  return router;
}

/**
 * Keeps an answer with the wording that was answered, as its proof, and as what is known of the visitor from now on.
 * @returns false if this is not the wording that is asked now
 */
function keepAnswer(services: Tracked, request: IncomingMessage, response: ServerResponse, answer: z.infer<typeof AnswerSchema>): boolean {
  const { db, clock, recorder, config } = services;
  const { consent } = loadShop(db).settings;
  const settings = consent && askedConsent(consent, recorder.told());
  if (!settings?.isOn || answer.wording !== wordingOf(settings)) return false;
  const asked = askedCategories(settings);
  const [statistics, marketing] = [asked.includes('statistics') && answer.statistics, asked.includes('marketing') && answer.marketing];
  // Who agrees to nothing gets no id by it; their answer is kept under one that nobody has.
  const own = giveVisitorId(services, request, response, false, { statistics, marketing });
  const visitorId = own ?? newId(clock, 'visitor');
  const now = clock.now();
  const given = { statistics, marketing, at: now, wording: answer.wording };
  recorder.flush();
  // Also of a browser that gets its id with this very answer.
  const visitor = own === null ? null : visitorById(services, request, own, {});
  db.transaction((tx) => {
    tx.insert(consentWordings).values({ id: answer.wording, at: now, settings }).onConflictDoNothing().run();
    tx.insert(consents)
      .values({ id: newId(clock, 'consent'), visitorId, page: answer.page, ...given })
      .run();
    // In the same transaction, since a shop has one connection.
    if (visitor) recorder.saveVisitor({ ...visitor, consent: given });
  });
  if (own !== null) recorder.knows(own, { consent: given });
  giveCookie(response, CONSENT_COOKIE, `${Number(statistics)}${Number(marketing)}.${answer.wording}`, {
    path: '/',
    maxAge: KEPT_SECONDS,
    ...(isFramedElsewhere(request) ? { sameSite: 'none', secure: true, partitioned: true } : { sameSite: 'lax', secure: config.siteUrl.startsWith('https:') }),
  });
  return true;
}
