import express, { Router } from 'express';
import { Refusal } from '../base/problem';
import { renderMessage } from '../site/renderMessage';
import type { Tracked } from '../tracking/recorder';
import { sourceByKey, takeLead } from './sources';

/** Enough for a busy campaign; a machine that guesses keys gets nowhere. */
const PER_MINUTE = 120;

/** Where other places send leads: a form that was pasted into another site, a program, an ad platform's webhook. */
export function leadSite(services: Tracked): Router {
  const router = Router();
  const limit = services.limits.middleware({ name: 'leads', most: PER_MINUTE, windowMs: 60_000 }, { message: 'Too many at once. Wait a minute.' });
  router.post('/leads/:key', limit, express.json({ limit: '64kb' }), express.urlencoded({ extended: true, limit: '64kb' }), (request, response) => {
    const source = sourceByKey(services.db, String(request.params.key));
    const isForm = request.is('application/x-www-form-urlencoded') !== false;
    response.set('cache-control', 'no-store');
    if (!source) return response.status(404).json({ title: 'No place sends leads with this key.' });
    const body: unknown = request.body ?? {};
    // A filled decoy is a machine: it is told what everybody is told, and nothing is kept.
    const isMachine = typeof body === 'object' && body !== null && 'website' in body && body.website !== '' && isForm;
    try {
      if (!isMachine) takeLead(services, source, body);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      const words = error.fields[0]?.message ?? error.title;
      if (!isForm) return response.status(400).json({ title: words });
      return response
        .status(400)
        .type('html')
        .send(renderMessage(services, 'That did not work', `${words} Go back and try again.`));
    }
    if (!isForm) return response.status(202).json({ status: 'kept' });
    if (source.thanksUrl) return response.redirect(303, source.thanksUrl);
    return response.type('html').send(renderMessage(services, 'Thank you', 'It has arrived.'));
  });
  return router;
}
