import express, { type Request, type Response, Router } from 'express';
import { sendHtml } from '../base/sendHtml';
import { whenFree } from '../base/writes';
import { whoOf } from '../facts/who';
import { stepPath } from '../funnel/live';
import { renderMessage } from '../site/renderMessage';
import { renderStep } from '../site/renderStep';
import { seenBy } from '../site/seenPage';
import { visitorOf } from '../tracking/visitor';
import { cartByToken } from './cart';
import { guestOf } from './guest';
import { type CheckoutNeeds, makePieces } from './pieces';
import { type CheckoutAnswer, placeOrder } from './service';
import { quoteFacts } from './view';

/** Paying: the order form, and the link that brings a cart back. Both answer pages and their script. */
export function checkoutSite(services: CheckoutNeeds): Router {
  const router = Router();
  const { db } = services;
  const { quoteHtml, bumpsHtml } = makePieces(services);
  const bodies = [express.urlencoded({ extended: false, limit: '32kb' }), express.json({ limit: '32kb' })];

  async function answer(request: Request, response: Response, told: CheckoutAnswer): Promise<void> {
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
        const { message, isOfCard, errors, quote } = view;
        if (json)
          response.status(told.status).json({ message, isOfCard, errors, quote: { ...quoteHtml(quote), ...quoteFacts(quote) }, bumps: bumpsHtml(view.bumps) });
        else
          return sendHtml(
            request,
            response.status(told.status).set('cache-control', 'no-store'),
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

  router.post('/pay/:stepId', bodies, async (request: Request, response: Response) => {
    // Sent again by ourselves while something long is being written: a cart is charged once, however often it is sent.
    await answer(
      request,
      response,
      await whenFree(services.writes, () => placeOrder(services, String(request.params.stepId), request.body, guestOf(services, request))),
    );
  });

  return router;
}
