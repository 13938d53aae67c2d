import { allElements, type ElementOf, isElementOf, nextStep, type Outcome } from '@ruta/core';
import express, { type Request, type Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { findContact } from '../contacts/store';
import { ownedProducts } from '../sales/store';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import type { VisitorRow } from '../tracking/recorder';
import { countedVisitor, counts, makeEvent, visitorOf } from '../tracking/visitor';
import { stepPath } from './context';
import { keepLead, readForm } from './leads';
import type { LiveStep } from './publicPages';
import { renderMessage, renderStep } from './renderStep';

/** Generous, since a whole class or office may share one address. */
const FORMS_PER_MINUTE = 120;

/** Going on from a page: by a button, or by sending a form. */
export function leadRoutes(services: Services): Router {
  const router = Router();
  const { db, recorder } = services;
  const gone = (response: Response) =>
    response
      .status(404)
      .type('html')
      .send(renderMessage(services, 'This page has moved', 'The address leads nowhere any more.', { link: { words: 'To the start', href: '/' } }));

  /** Where an outcome leads; the page itself if no route is drawn. */
  function onward(live: LiveStep, outcome: Outcome, visitor: VisitorRow | null): string {
    const contact = visitor?.contactId ? findContact(db, visitor.contactId) : undefined;
    const facts = {
      ownsProducts: contact ? ownedProducts(db, contact.id) : [],
      boughtProducts: [],
      tags: [],
      ...(contact?.country ? { country: contact.country } : {}),
      ...(visitor ? { device: visitor.device, returning: visitor.firstAt < visitor.lastAt } : {}),
      ...(visitor?.lastCampaign?.campaign ? { campaign: visitor.lastCampaign.campaign } : {}),
    };
    const next = nextStep(live.publication.snapshot.graph, live.step.id, outcome, facts);
    return stepPath({ publication: live.publication, step: next?.step ?? live.step });
  }

  router.get('/go/:stepId', (request, response) => {
    const live = services.publicPages.step(request.params.stepId);
    if (!live) return gone(response);
    const visitor = countedVisitor(services, request);
    const target = typeof request.query.to === 'string' ? live.publication.snapshot.graph.steps.find((step) => step.id === request.query.to) : undefined;
    if (request.query.to !== undefined && !target) return gone(response);
    if (visitor) {
      recorder.gather(
        makeEvent(services, 'step.left', loadShop(db).settings.mode, visitor, { funnelId: live.publication.funnelId, stepId: live.step.id }),
        visitor,
      );
    }
    response.set('cache-control', 'no-store');
    return response.redirect(303, target ? stepPath({ publication: live.publication, step: target }) : onward(live, 'next', visitorOf(services, request)));
  });

  const limit = rateLimit({
    windowMs: 60_000,
    limit: FORMS_PER_MINUTE,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    message: 'Too many forms in a short time. Wait a minute, then try again.',
  });

  router.post('/go/:stepId/form', limit, express.urlencoded({ extended: false, limit: '32kb' }), (request: Request, response: Response) => {
    const live = services.publicPages.step(String(request.params.stepId));
    const form =
      live && allElements(live.page).find((element): element is ElementOf<'form'> => isElementOf(element, 'form') && element.id === request.body?._form);
    if (!live || !form) return gone(response);
    const { values, errors } = readForm(form, request.body);
    if (Object.keys(errors).length > 0) {
      return response
        .status(422)
        .set('cache-control', 'no-store')
        .type('html')
        .send(renderStep(services, live, { form: { actionUrl: `/go/${live.step.id}/form`, values, errors } }));
    }
    const visitor = visitorOf(services, request);
    // A filled decoy is a machine: it is led on like everybody, and nothing is kept.
    const isMachine = typeof request.body.website === 'string' && request.body.website !== '';
    if (!isMachine) keepLead(services, live, form, values, visitor, counts(services, request));
    response.set('cache-control', 'no-store');
    return response.redirect(303, onward(live, 'submitted', visitor ? (recorder.visitor(visitor.id) ?? visitor) : null));
  });

  return router;
}
