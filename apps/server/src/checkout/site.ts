import { OrderFormSchema } from '@ruta/core/checkout';
import { renderBumps, renderQuote } from '@ruta/pages/render';
import express, { type Request, type Response, Router } from 'express';
import { whenFree } from '../base/writes';
import { whoOf } from '../facts/who';
import { type LiveServices, stepPath } from '../funnel/live';
import type { Paying } from '../payments/accounts';
import { renderMessage } from '../site/renderMessage';
import { renderStep } from '../site/renderStep';
import { seenBy } from '../site/seenPage';
import type { Tracked } from '../tracking/recorder';
import { visitorOf } from '../tracking/visitor';
import { cartByToken } from './cart';
import { guestOf } from './guest';
import { beginCheckout, type CheckoutAnswer, findCheckout, placeOrder } from './service';
import { bumpViews, quoteFacts } from './view';

/** Paying: the order form, its live total, and the link that brings a cart back. Each answers pages and their script. */
export function checkoutSite(services: Tracked & Paying & LiveServices): Router {
  const router = Router();
  const { db } = services;
  const bodies = [express.urlencoded({ extended: false, limit: '32kb' }), express.json({ limit: '32kb' })];

  function answer(request: Request, response: Response, told: CheckoutAnswer): void {
    const json = request.accepts(['html', 'json']) === 'json';
    switch (told.kind) {
      case 'lead':
        if (json) response.status(told.status).json({ redirect: told.url });
        else response.redirect(303, told.url);
        return;
      case 'refused':
        if (json) response.status(told.status).json({ message: told.message });
        else
          response
            .status(told.status)
            .type('html')
            .send(renderMessage(services, 'This did not work', told.message));
        return;
      case 'show': {
        const { live, view } = told;
        const { message, errors, quote } = view;
        if (json)
          response.status(told.status).json({ message, errors, quote: { html: renderQuote(quote), ...quoteFacts(quote) }, bumps: renderBumps(view.bumps) });
        else
          response
            .status(told.status)
            .set('cache-control', 'no-store')
            .type('html')
            .send(
              renderStep(services, seenBy(services, live, { visitor: visitorOf(services, request), cart: { quote, country: view.values.country ?? '' } }), {
                checkout: view,
              }),
            );
        return;
      }
      default:
        told satisfies never;
    }
  }

  router.get('/cart/:token', (request, response) => {
    const cart = cartByToken(db, request.params.token);
    const live = cart && services.live.stepHaving(cart.stepId, whoOf(services, request), () => true);
    response.set('cache-control', 'no-store');
    if (!cart || !live) return answer(request, response, { kind: 'refused', status: 404, message: 'This cart is not here any more. Nothing was charged.' });
    return response.redirect(303, `${stepPath(live)}?cart=${cart.token}`);
  });

  router.post('/pay/:stepId/quote', bodies, (request: Request, response: Response) => {
    const found = findCheckout(services, String(request.params.stepId), request.body, guestOf(services, request));
    if ('kind' in found) return answer(request, response, found);
    const { quote, errors } = found.quoted;
    response.json({ quote: { html: renderQuote(quote), ...quoteFacts(quote) }, errors, bumps: renderBumps(bumpViews(services, found.live, found.quoted)) });
  });

  router.post('/pay/:stepId/contact', bodies, (request: Request, response: Response) => {
    const guest = guestOf(services, request);
    const found = findCheckout(services, String(request.params.stepId), request.body, guest);
    if ('kind' in found) return answer(request, response, found);
    const parsed = OrderFormSchema.pick({ cart: true, email: true }).safeParse(request.body);
    if (!parsed.success) {
      response.status(400).json({ message: 'There is no address to keep yet.' });
      return;
    }
    beginCheckout(services, guest, parsed.data.cart, found);
    response.status(200).json({});
  });

  router.post('/pay/:stepId', bodies, async (request: Request, response: Response) => {
    // Sent again by ourselves while something long is being written: a cart is charged once, however often it is sent.
    answer(request, response, await whenFree(() => placeOrder(services, String(request.params.stepId), request.body, guestOf(services, request))));
  });

  return router;
}
