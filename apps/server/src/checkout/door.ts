import type { IncomingMessage, ServerResponse } from 'node:http';
import { OrderFormSchema } from '@ruta/core/checkout';
import { jsonBody } from '../base/jsonBody';
import { problemOf } from '../base/problem';
import { whenFree } from '../base/writes';
import { findShop } from '../shop/store';
import { guestOf } from './guest';
import { type CheckoutNeeds, makePieces } from './pieces';
import { askRegister, beginCheckout, findCheckout } from './service';
import { bumpViews, quoteFacts } from './view';

const PATH = /^\/pay\/([\w~-]+)\/(quote|contact)$/;
const MOST_BYTES = 32 * 1024;
const HEADERS = { 'x-content-type-options': 'nosniff', 'referrer-policy': 'strict-origin-when-cross-origin', 'cache-control': 'no-store' };

/** What makes a cart one that is kept. */
const BegunSchema = OrderFormSchema.pick({ cart: true, email: true });

/**
 * Answers what a checkout's script asks again and again while somebody fills the form: the live total, and that an address
 * is known by now. Before the framework, since in a rush there is nothing else.
 * @param unwritten what is said where something could not be written down
 * @returns whether the request was for that, and is answered; everything else goes on
 */
export function checkoutDoor(services: CheckoutNeeds, unwritten: () => string): (request: IncomingMessage, response: ServerResponse) => boolean {
  const { quoteHtml, bumpsHtml } = makePieces(services);

  async function answerTo(request: IncomingMessage, stepId: string, what: string): Promise<{ status: number; body: object }> {
    const body = await jsonBody(request, MOST_BYTES);
    const guest = guestOf(services, request);
    await askRegister(services, body, guest);
    const found = findCheckout(services, stepId, body, guest);
    if ('kind' in found) {
      if (found.kind === 'lead') return { status: found.status, body: { redirect: found.url } };
      return { status: found.status, body: { message: found.kind === 'refused' ? found.message : found.view.message } };
    }
    if (what === 'quote') {
      const { quote, errors } = found.quoted;
      return {
        status: 200,
        body: { quote: { ...quoteHtml(quote), ...quoteFacts(quote) }, errors, bumps: bumpsHtml(bumpViews(services, found.live, found.quoted)) },
      };
    }
    const begun = BegunSchema.safeParse(body);
    if (!begun.success) return { status: 400, body: { message: 'There is no address to keep yet.' } };
    await whenFree(services.writes, () => services.together.write(() => beginCheckout(services, guest, begun.data.cart, found)));
    return { status: 200, body: {} };
  }

  return (request, response) => {
    const asked = request.method === 'POST' ? PATH.exec(request.url ?? '') : null;
    if (!asked || !findShop(services.db)) return false;
    const [, stepId = '', what = ''] = asked;
    const send = (status: number, body: object, type = 'application/json') => {
      if (response.destroyed) return;
      response.writeHead(status, { ...HEADERS, 'content-type': `${type}; charset=utf-8` }).end(JSON.stringify(body));
    };
    answerTo(request, stepId, what)
      .then(({ status, body }) => send(status, body))
      .catch((error: unknown) => {
        const { status, title } = problemOf(services, unwritten, error, request.url ?? '');
        send(status, { type: 'about:blank', title, status, message: title }, 'application/problem+json');
      });
    return true;
  };
}
