import express, { type Request, type Response, Router } from 'express';
import { sendHtml } from '../base/sendHtml';
import type { LiveServices } from '../funnel/live';
import type { Paying } from '../payments/accounts';
import { purchasesOf } from '../site/purchases';
import { renderMessage } from '../site/renderMessage';
import { renderStep } from '../site/renderStep';
import { seenBy } from '../site/seenPage';
import type { Tracked } from '../tracking/recorder';
import { isFramed } from '../tracking/visitor';
import { visitorOf } from '../tracking/visitorOf';
import { guestOf } from './guest';
import { firstEnd, offersView } from './offerView';
import { answerOffer, leaveOffers, type OfferAnswer, quoteOffer } from './takeOffer';

type Needs = Tracked & Paying & LiveServices;

/** The answers to an offer after the payment. */
export function offerSite(services: Needs): Router {
  const router = Router();
  const bodies = express.urlencoded({ extended: false, limit: '16kb' });

  router.post('/offer/:stepId', bodies, async (request: Request, response: Response) => {
    await sendOfferAnswer(services, response, await answerOffer(services, String(request.params.stepId), request.body, guestOf(services, request)));
  });

  router.post('/offer/:stepId/quote', bodies, (request: Request, response: Response) => {
    const quoted = quoteOffer(services, String(request.params.stepId), request.body, guestOf(services, request));
    if (quoted) response.json(quoted);
    else response.status(410).json({ message: 'This offer has ended.' });
  });

  router.post('/offer/:stepId/left', bodies, (request: Request, response: Response) => {
    leaveOffers(services, request.body?.order);
    response.status(204).end();
  });

  return router;
}

/** Answers with the page of an offer, the way on, or why it cannot be had. Nothing of it is kept anywhere. */
export async function sendOfferAnswer(services: Needs, response: Response, answer: OfferAnswer): Promise<void> {
  response.set('cache-control', 'private, no-store');
  switch (answer.kind) {
    case 'lead':
      response.redirect(303, answer.url);
      return;
    case 'told':
      response
        .status(answer.status)
        .type('html')
        .send(renderMessage(services, answer.title, answer.message, { link: { words: 'Go on', href: answer.url } }));
      return;
    case 'show': {
      const { live, order, standing, state } = answer;
      await sendHtml(
        response.req,
        response.status(answer.status),
        renderStep(
          services,
          seenBy(services, live, { order, visitor: visitorOf(services, order) }),
          {
            buyer: { firstName: order.buyer.firstName },
            offers: offersView(services, live, order, standing, state),
            endsAt: firstEnd(services, standing),
          },
          purchasesOf(services, response.req, order),
          isFramed(response.req),
        ),
      );
      return;
    }
    default:
      answer satisfies never;
  }
}
