import type { IncomingMessage, ServerResponse } from 'node:http';
import { currentPrice, optionsOf } from '@ruta/core/catalog';
import { idSchema } from '@ruta/core/ids';
import { mainOffer, pricedBy } from '@ruta/core/offers';
import type { Mode } from '@ruta/core/shop';
import { z } from 'zod';
import { addressOf } from '../base/proxies';
import { findProduct } from '../catalog/store';
import type { LiveServices, LiveStep, Who } from '../funnel/live';
import { loadShop } from '../shop/store';
import { visitorIdOf } from './browserIds';
import { onceId } from './onceId';
import type { Tracked, VisitorRow } from './recorder';
import { countedVisitor, makeEvent, placeOf } from './visitor';

const ViewSchema = z.object({ id: idSchema('event'), path: z.string().max(300), query: z.string().max(2000).default('') });

/** One transparent pixel. */
const PIXEL = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');

type Needs = Tracked & LiveServices;

/**
 * Counts views: by the page's script, or by a picture where there is no script. Stands before the framework, since these
 * are the most frequent requests; everything is in the address, so that no body has to be read.
 * @param whoOf says who asks: which arms of tests they see
 * @param pathAsAsked says what stands at the root of a domain of the seller's
 * @returns whether the request was one of these, and is answered
 */
export function viewDoor(
  services: Needs,
  whoOf: (request: IncomingMessage, query: Record<string, unknown>) => Who,
  pathAsAsked: (request: IncomingMessage, path: string) => string = (_request, path) => path,
): (request: IncomingMessage, response: ServerResponse) => boolean {
  return (request, response) => {
    const { url = '', method } = request;
    if (!url.startsWith('/e?') && !url.startsWith('/e/pixel.gif?')) return false;
    const asked = new URLSearchParams(url.slice(url.indexOf('?') + 1));
    if (method === 'GET' && url.startsWith('/e/')) {
      const live = services.live.step(asked.get('step') ?? '', whoOf(request, {}));
      if (live) record(services, request, live, {});
      services.recorder.onceKept(() =>
        response.writeHead(200, { 'cache-control': 'no-store', 'content-type': 'image/gif', 'content-length': PIXEL.length }).end(PIXEL),
      );
      return true;
    }
    if (method !== 'POST') return false;
    const parsed = ViewSchema.safeParse({ id: asked.get('id'), path: asked.get('path'), query: asked.get('query') ?? '' });
    if (!parsed.success) {
      response.writeHead(400, { 'content-type': 'application/json' }).end('{"message":"This is not a page view."}');
      return true;
    }
    const { id, path, query } = parsed.data;
    // Only pages with a data layer ask what happened since.
    const visitorId = asked.has('tell') ? visitorIdOf(request) : undefined;
    if (visitorId) services.recorder.flushOf(visitorId);
    const [, funnelSlug = '', stepSlug] = pathAsAsked(request, path).split('/');
    const campaign = query ? Object.fromEntries(new URLSearchParams(query)) : {};
    const live = services.live.at(funnelSlug, stepSlug || undefined, whoOf(request, campaign));
    if (live) record(services, request, live, campaign, id);
    const happened = visitorId ? services.untold.take(visitorId, services.clock.now()) : [];
    services.recorder.onceKept(() => {
      if (happened.length === 0) response.writeHead(204).end();
      else response.writeHead(200, { 'content-type': 'application/json', 'cache-control': 'no-store' }).end(JSON.stringify(happened));
    });
    return true;
  };
}

function record(services: Needs, request: IncomingMessage, live: LiveStep, query: Record<string, unknown>, id?: string): void {
  const visitor = countedVisitor(services, request, query);
  if (!visitor || isMadeUp(services, request, visitor)) return;
  const { mode } = loadShop(services.db).settings;
  services.recorder.gather(makeEvent(services, 'page.viewed', mode, visitor, placeOf(live), id), visitor);
  recordProduct(services, mode, visitor, live);
}

/** Whether somebody is one of so many new visitors of one address that most of them are made up: they are counted nowhere. */
export function isMadeUp({ recorder, clock, config }: Tracked, request: IncomingMessage, { id, firstAt, lastAt, visits }: VisitorRow): boolean {
  const isNew = visits === 1 && firstAt === lastAt && !recorder.visitor(id);
  return isNew && !recorder.newcomers.take(addressOf(config.trusts, request), clock.now());
}

/** What was recorded lately, so that most further views of the same cost nothing; the log itself takes each once. */
const lately = new Set<string>();
const MOST_LATELY = 20_000;

function firstTime(key: string): boolean {
  if (lately.has(key)) return false;
  if (lately.size >= MOST_LATELY) lately.clear();
  lately.add(key);
  return true;
}

/** Records that a visitor looked at what a step sells: a product once in a visit, on however many pages they see it. */
function recordProduct(services: Needs, mode: Mode, visitor: VisitorRow, live: LiveStep): void {
  const offer = mainOffer(live.step);
  const product = offer && findProduct(services.db, offer.productId);
  if (!product) return;
  const { id: productId, name } = product;
  if (!firstTime(`${visitor.visitId} ${productId}`)) return;
  const [first] = optionsOf(pricedBy(product, offer));
  const value = first ? currentPrice(first.option.price, services.clock.now()).current : null;
  const place = { ...placeOf(live), data: { productId, name, value } };
  services.recorder.gather(makeEvent(services, 'product.viewed', mode, visitor, place, onceId('product', visitor.visitId, productId)), visitor);
}
