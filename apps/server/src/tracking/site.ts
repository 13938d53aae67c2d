import type { IncomingMessage, ServerResponse } from 'node:http';
import { idSchema } from '@ruta/core/ids';
import { z } from 'zod';
import type { LiveServices, LiveStep } from '../funnel/live';
import { loadShop } from '../shop/store';
import type { Tracked } from './recorder';
import { countedVisitor, makeEvent } from './visitor';

const ViewSchema = z.object({ id: idSchema('event'), path: z.string().max(300), query: z.string().max(2000).default('') });

/** One transparent pixel. */
const PIXEL = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');

type Needs = Tracked & LiveServices;

/**
 * Counts views: by the page's script, or by a picture where there is no script. Stands before the framework, since these
 * are the most frequent requests; everything is in the address, so that no body has to be read.
 * @returns whether the request was one of these, and is answered
 */
export function viewDoor(services: Needs): (request: IncomingMessage, response: ServerResponse) => boolean {
  return (request, response) => {
    const { url = '', method } = request;
    if (!url.startsWith('/e?') && !url.startsWith('/e/pixel.gif?')) return false;
    const asked = new URLSearchParams(url.slice(url.indexOf('?') + 1));
    if (method === 'GET' && url.startsWith('/e/')) {
      const live = services.live.step(asked.get('step') ?? '');
      if (live) record(services, request, live, {});
      response.writeHead(200, { 'cache-control': 'no-store', 'content-type': 'image/gif', 'content-length': PIXEL.length }).end(PIXEL);
      return true;
    }
    if (method !== 'POST') return false;
    const parsed = ViewSchema.safeParse({ id: asked.get('id'), path: asked.get('path'), query: asked.get('query') ?? '' });
    if (!parsed.success) {
      response.writeHead(400, { 'content-type': 'application/json' }).end('{"message":"This is not a page view."}');
      return true;
    }
    const { id, path, query } = parsed.data;
    const [, funnelSlug = '', stepSlug] = path.split('/');
    const live = services.live.at(funnelSlug, stepSlug || undefined);
    if (live) record(services, request, live, query ? Object.fromEntries(new URLSearchParams(query)) : {}, id);
    response.writeHead(204).end();
    return true;
  };
}

function record(services: Needs, request: IncomingMessage, live: LiveStep, query: Record<string, unknown>, id?: string): void {
  const visitor = countedVisitor(services, request, query);
  if (!visitor) return;
  const { mode } = loadShop(services.db).settings;
  services.recorder.gather(makeEvent(services, 'page.viewed', mode, visitor, { funnelId: live.publication.funnelId, stepId: live.step.id }, id), visitor);
}
