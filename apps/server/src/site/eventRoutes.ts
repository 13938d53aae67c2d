import { idSchema } from '@ruta/core';
import { type Request, Router } from 'express';
import { z } from 'zod';
import type { Services } from '../services';
import { countedVisitor, makeEvent } from '../tracking/visitor';

const ViewSchema = z.object({ id: idSchema('event'), path: z.string().max(300), query: z.string().max(2000).default('') });

/** One transparent pixel. */
const PIXEL = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');

/** Counting views: by the page's script, or by a picture where there is no script. */
export function eventRoutes(services: Services): Router {
  const router = Router();

  // Everything stands in the address: a request without a body costs least where there are most of them.
  router.post('/e', (request, response) => {
    const parsed = ViewSchema.safeParse(request.query);
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

  function view(request: Request, funnelId: string, stepId: string, query: Record<string, unknown>, id?: string): void {
    const visitor = countedVisitor(services, request, query);
    if (!visitor) return;
    services.recorder.gather(
      makeEvent(services, 'page.viewed', services.publicPages.shop()?.settings.mode ?? 'live', visitor, { funnelId, stepId }, id),
      visitor,
    );
  }

  return router;
}
