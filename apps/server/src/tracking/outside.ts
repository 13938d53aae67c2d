import path from 'node:path';
import { idSchema } from '@ruta/core/ids';
import { eq } from 'drizzle-orm';
import { Router } from 'express';
import { z } from 'zod';
import { newId } from '../base/ids';
import type { LiveServices } from '../funnel/live';
import { loadShop } from '../shop/store';
import { browserIdsOf } from './browserIds';
import type { Tracked } from './recorder';
import { isMadeUp } from './site';
import { elsewhereVisitors } from './tables';
import { isCountedAgent, makeEvent, visitorById } from './visitor';

const SCRIPT_SECONDS = 60 * 60;
const PER_MINUTE = 120;
/** What other sites put into their pages, by the name in its address. */
const SCRIPTS = { outside: 'outside.js', checkout: 'checkoutFrame.js' };

const ViewSchema = z.object({
  /** Without one nothing is counted, and only a word for the way here is asked for. */
  id: idSchema('event').optional(),
  /** Who they are there; whoever has no id yet gets one. */
  visitor: idSchema('elsewhere').optional(),
  funnel: z.string().max(100).default(''),
  page: z.string().max(300).default(''),
  query: z.string().max(2000).default(''),
  /** The page of the shop that is about to be opened, for which a word is asked. */
  to: z.url().max(3000).optional(),
});

/** Pages elsewhere that lead here: their script, and what it tells. Nothing of it needs a cookie, so that any site may ask. */
export function outsideSite(services: Tracked & LiveServices): Router {
  const router = Router();
  const { db, clock, recorder, config, live } = services;
  const limit = services.limits.middleware({ name: 'outside', most: PER_MINUTE, windowMs: 60_000 }, { message: 'Wait a minute, then try again.' });
  for (const [name, file] of Object.entries(SCRIPTS)) {
    router.get(`/embed/${name}.js`, (_request, response) => {
      response.set({ 'cache-control': `public, max-age=${SCRIPT_SECONDS}`, 'cross-origin-resource-policy': 'cross-origin' });
      response.sendFile(path.join(config.assets.scripts, file));
    });
  }
  router.post('/outside', limit, (request, response) => {
    response.set({ 'access-control-allow-origin': '*', 'cache-control': 'no-store' });
    const asked = ViewSchema.safeParse(request.query);
    if (!asked.success) return response.status(400).json({ message: 'This is not a view of a page.' });
    const { id, visitor: known, funnel, page, query, to } = asked.data;
    // Where the shop asks first nobody can be asked: they are a passing visit, which goes on when they arrive.
    const passing = browserIdsOf(request);
    const elsewhere = passing?.isPassing ? { id: null, visitorId: passing.counted } : elsewhereOf(services, known);
    if (id && isCountedAgent(services, request)) {
      const place = live.at(funnel, undefined);
      const visitor = visitorById(services, request, elsewhere.visitorId, Object.fromEntries(new URLSearchParams(query)));
      const where = place ? { funnelId: place.publication.funnelId, publicationId: place.publication.id } : {};
      if (!isMadeUp(services, request, visitor))
        recorder.gather(makeEvent(services, 'page.viewed', loadShop(db).settings.mode, visitor, { ...where, data: { outside: page } }, id), visitor);
    }
    const word = to === undefined || elsewhere.id === null ? null : recorder.handovers.give(elsewhere.id, to, clock.now());
    return response.json({ visitor: elsewhere.id, word });
  });
  return router;
}

/** Who a browser is elsewhere, with the visitor that stands for: a new one for an id that nobody has. */
function elsewhereOf({ db, clock }: Tracked, id: string | undefined): { id: string; visitorId: string } {
  const known = id && db.select().from(elsewhereVisitors).where(eq(elsewhereVisitors.id, id)).get();
  if (known) return known;
  const made = { id: newId(clock, 'elsewhere'), visitorId: newId(clock, 'visitor'), arrivedAt: null };
  db.insert(elsewhereVisitors).values(made).run();
  return made;
}
