import type { Action, ElementOf } from '@ruta/core/elements';
import { actionsOf, isElementOf } from '@ruta/core/elements';
import { type Move, nextStep } from '@ruta/core/funnel';
import { readAnswers } from '@ruta/core/leads';
import { allElements, findElement, type PageDocument } from '@ruta/core/page';
import express, { type Request, type Response, Router } from 'express';
import { whenFree } from '../base/writes';
import type { ContactRow } from '../contacts/store';
import { isOwnAddress } from '../domains/address';
import { gatherFacts } from '../facts/gather';
import { whoOf } from '../facts/who';
import { type LiveServices, type LiveStep, stepPath } from '../funnel/live';
import { loadShop } from '../shop/store';
import { renderMessage } from '../site/renderMessage';
import { renderStep } from '../site/renderStep';
import { seenBy } from '../site/seenPage';
import type { Tracked } from '../tracking/recorder';
import { recordRoutes } from '../tracking/routesTaken';
import { countedVisitor, counts, giveVisitorId, makeEvent, placeOf, visitorOf } from '../tracking/visitor';
import { carriedOver } from './carryOver';
import { GIFT_SENT } from './giftSent';
import { givesGift, saveLead } from './leads';

/** Generous, since a whole class or office may share one address. */
const FORMS_PER_MINUTE = 120;

/** Going on from a page: by a button, or by sending a form. */
export function pageSite(services: Tracked & LiveServices): Router {
  const router = Router();
  const { db, recorder } = services;
  const gone = (response: Response) =>
    response
      .status(404)
      .type('html')
      .send(renderMessage(services, 'This page has moved', 'The address leads nowhere any more.', { link: { words: 'To the start', href: '/' } }));

  /** Where a move leads; the page itself if nothing leads on. */
  function onward(request: Request, live: LiveStep, move: Move, contact?: ContactRow): string {
    const facts = gatherFacts(services, { visitor: visitorOf(services, request), contact, acceptLanguage: request.get('accept-language') });
    const next = nextStep(live.publication.snapshot.graph, live.step.id, move, facts);
    const counted = countedVisitor(services, request);
    if (counted && next.kind === 'step' && next.route) {
      recordRoutes(services, loadShop(db).settings.mode, counted, live.publication.funnelId, [next.route]);
    }
    return next.kind === 'address' ? next.url : stepPath({ publication: live.publication, step: next.step });
  }

  router.get('/go/:stepId', (request, response) => {
    const pressed = request.query.by === undefined ? undefined : String(request.query.by);
    const live = services.live.stepHaving(
      request.params.stepId,
      whoOf(services, request),
      (page) => pressed === undefined || findElement(page, pressed) !== undefined,
    );
    if (!live) return gone(response);
    // What a button does is read from the published page, never from the address.
    const by = pressed === undefined ? undefined : findElement(live.page, pressed)?.element;
    const action = by && actionsOf(by)[Number(request.query.part ?? 0)];
    if (pressed !== undefined && !action && by?.type !== 'price-table') return gone(response);
    const to = action && targetOf(action);
    if (to && 'stepId' in to && !live.publication.snapshot.graph.steps.some((step) => step.id === to.stepId)) return gone(response);
    const visitor = countedVisitor(services, request);
    if (visitor) {
      const place = placeOf(live);
      recorder.gather(makeEvent(services, 'step.left', loadShop(db).settings.mode, visitor, place), visitor);
    }
    response.set('cache-control', 'no-store');
    const address = carriedOver(services, request, onward(request, live, { outcome: 'next', to }));
    // A price that was chosen on the way is chosen at the checkout, which knows whether it is for sale.
    const chosen = by?.type === 'price-table' && typeof request.query.option === 'string' && address.startsWith('/') ? request.query.option : null;
    return response.redirect(303, chosen ? `${address}?${new URLSearchParams({ option: chosen })}` : address);
  });

  // Words that lead to another domain of the shop. Nowhere else, so that nobody is led astray by an address of the shop.
  router.get('/over', (request, response) => {
    const to = String(request.query.to ?? '');
    response.set('cache-control', 'no-store');
    return isOwnAddress(services, to) ? response.redirect(303, carriedOver(services, request, to)) : gone(response);
  });

  const limit = services.limits.middleware(
    { name: 'forms', most: FORMS_PER_MINUTE, windowMs: 60_000 },
    { message: 'Too many forms in a short time. Wait a minute, then try again.' },
  );

  router.post('/go/:stepId/form', limit, express.urlencoded({ extended: false, limit: '32kb' }), (request: Request, response: Response) =>
    whenFree(services.writes, () => sent(request, response)),
  );

  /** Takes a form: all of it, or nothing. */
  function sent(request: Request, response: Response) {
    const formOn = (page: PageDocument) =>
      allElements(page).find((element): element is ElementOf<'form'> => isElementOf(element, 'form') && element.id === request.body?._form);
    const live = services.live.stepHaving(String(request.params.stepId), whoOf(services, request), (page) => formOn(page) !== undefined);
    const form = live && formOn(live.page);
    if (!live || !form) return gone(response);
    const { values, errors } = readAnswers(form, request.body);
    if (Object.keys(errors).length > 0) {
      return response
        .status(422)
        .set('cache-control', 'no-store')
        .type('html')
        .send(
          renderStep(services, seenBy(services, live, { visitor: visitorOf(services, request), acceptLanguage: request.get('accept-language') }), {
            form: { actionUrl: `/go/${live.step.id}/form`, values, errors, formId: form.id },
          }),
        );
    }
    // What was typed is filled in again in the same browser.
    giveVisitorId(services, request, response, true);
    const visitor = visitorOf(services, request);
    // A filled decoy is a machine: it is led on like everybody, and nothing is kept.
    const isMachine = typeof request.body.website === 'string' && request.body.website !== '';
    const contact = isMachine ? undefined : saveLead(services, live, form, values, visitor, counts(services, request));
    response.set('cache-control', 'no-store');
    if (form.after?.kind === 'message') {
      const seen = seenBy(services, live, { visitor: visitorOf(services, request), contact, acceptLanguage: request.get('accept-language') });
      return response
        .type('html')
        .send(renderStep(services, seen, { form: { actionUrl: '', values: {}, errors: {}, sent: { id: form.id, words: form.after.words } } }));
    }
    // Counted as going on, wherever that is.
    const next = onward(request, live, { outcome: 'submitted' }, contact);
    if (form.after?.kind === 'address') return response.redirect(303, carriedOver(services, request, form.after.url));
    const isGiven = contact !== undefined && givesGift(services, live);
    return response.redirect(303, carriedOver(services, request, isGiven ? `${next}${next.includes('?') ? '&' : '?'}${GIFT_SENT}` : next));
  }

  return router;
}

/** Where a press itself leads; undefined for one that just goes on. */
function targetOf(action: Action): Move['to'] {
  switch (action.kind) {
    case 'step':
      return { stepId: action.stepId };
    case 'address':
      return { address: action.url };
    case 'next':
    case 'scroll':
    case 'section':
    case 'pop-up':
      return undefined;
    default:
      return action satisfies never;
  }
}
