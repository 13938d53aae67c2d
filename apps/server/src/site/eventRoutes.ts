import { idSchema } from '@ruta/core';
import express, { Router } from 'express';
import { z } from 'zod';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { countedVisitor, makeEvent } from '../tracking/visitor';

const ViewSchema = z.object({ id: idSchema('event'), path: z.string().max(300), query: z.string().max(2000).default('') });

/** One transparent pixel. */
const PIXEL = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');

/** Counting views: by the page's script, or by a picture where there is no script. */
export function eventRoutes(services: Services): Router {
  const router = Router();

  router.post('/e', express.json({ limit: '4kb' }), (request, response) => {
    const parsed = ViewSchema.safeParse(request.body);
    if (!parsed.success) {
      response.status(400).json({ message: 'This is not a page view.' });
      return;
    }
    const [, funnelSlug = '', stepSlug] = parsed.data.path.split('/');
    const live = services.publicPages.at(funnelSlug, stepSlug || undefined);
    if (live) view(request, live.publication.funnelId, live.step.id, Object.fromEntries(new URLSearchParams(parsed.data.query)), parsed.data.id);
    response.status(204).end();
  });

  router.get('/e/pixel.gif', (request, response) => {
    const live = services.publicPages.step(String(request.query.step));
    if (live) view(request, live.publication.funnelId, live.step.id, {});
    response.set({ 'cache-control': 'no-store', 'content-type': 'image/gif' }).send(PIXEL);
  });

  function view(request: express.Request, funnelId: string, stepId: string, query: Record<string, unknown>, id?: string): void {
    const visitor = countedVisitor(services, request, query);
    if (!visitor) return;
    services.recorder.gather(makeEvent(services, 'page.viewed', loadShop(services.db).settings.mode, visitor, { funnelId, stepId }, id), visitor);
  }

  return router;
}
