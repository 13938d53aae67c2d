import { allElements, cartLine, type ElementOf, EmailSchema, isElementOf, isFree, nextStep, type Outcome, quoteCart } from '@ruta/core';
import express, { type Request, type Response, Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import { findProduct } from '../catalog/store';
import { type ContactRow, findContact, keepContact } from '../contacts/store';
import { newId } from '../ids';
import { keepOpenOrder, markPaid, queueReceipt } from '../sales/fulfil';
import { giftOrder, ownedProducts } from '../sales/store';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import type { VisitorRow } from '../tracking/recorder';
import { countedVisitor, counts, makeEvent, visitorOf } from '../tracking/visitor';
import { stepPath } from './context';
import type { LiveStep } from './publicPages';
import { renderMessage, renderStep } from './renderStep';

/** Generous, since a whole class or office may share one address. */
const FORMS_PER_MINUTE = 120;

/** Going on from a page: by a button, or by sending a form. */
export function leadRoutes(services: Services): Router {
  const router = Router();
  const { db, clock, recorder } = services;
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
    if (!isMachine) keepLead(live, form, values, visitor, counts(services, request));
    response.set('cache-control', 'no-store');
    return response.redirect(303, onward(live, 'submitted', visitor ? (recorder.visitor(visitor.id) ?? visitor) : null));
  });

  /** Keeps the contact, gives the gift, and writes the lead, all at once or not at all. */
  function keepLead(live: LiveStep, form: ElementOf<'form'>, values: Record<string, string>, visitor: VisitorRow | null, isCounted: boolean): void {
    recorder.flush();
    const { mode } = loadShop(db).settings;
    const { funnelId } = live.publication;
    db.transaction((tx) => {
      const answers = Object.fromEntries(
        form.fields
          .filter((field) => !['firstName', 'lastName', 'email'].includes(field.key) && values[field.key])
          .map((field) => [field.label, values[field.key] as string]),
      );
      const contact = keepContact(tx, services, {
        email: values.email ?? '',
        firstName: values.firstName,
        lastName: values.lastName,
        answers,
        funnelId,
        campaign: visitor?.lastCampaign ?? null,
      });
      const known = visitor ? { ...visitor, contactId: contact.id } : null;
      if (known) recorder.saveVisitor(known);
      recorder.record(
        makeEvent(services, 'lead.submitted', mode, isCounted ? known : null, {
          funnelId,
          stepId: live.step.id,
          contactId: contact.id,
          data: { form: form.id },
        }),
      );
      giveGift(tx, live, contact, isCounted ? known : null);
    });
  }

  /** The step's free product becomes an order of value 0, so that its files come by the same way as bought ones. Who asks again gets the mail again. */
  function giveGift(tx: typeof db, live: LiveStep, contact: ContactRow, visitor: VisitorRow | null): void {
    const gift = live.step.productId ? findProduct(tx, live.step.productId) : undefined;
    if (!gift || !isFree(gift) || gift.archivedAt) return;
    const earlier = giftOrder(tx, contact.id, gift.id);
    if (earlier) {
      queueReceipt(tx, services, earlier, `receipt ${earlier.id} ${clock.now()}`);
      return;
    }
    const shop = loadShop(tx);
    const country = contact.country ?? shop.settings.country;
    const order = keepOpenOrder(tx, services, {
      funnelId: live.publication.funnelId,
      stepId: live.step.id,
      cartId: newId(clock, 'cart'),
      visitorId: visitor?.id ?? null,
      mode: shop.settings.mode,
      quote: quoteCart(shop, { lines: [cartLine('main', 'main', gift)], buyer: { country } }, clock.now()),
      codeId: null,
      buyer: { email: contact.email, firstName: contact.firstName, lastName: contact.lastName, country },
      campaign: visitor?.lastCampaign ?? null,
    });
    markPaid(tx, services, order, null);
  }

  return router;
}

const MAX_ANSWER = 200;

/** Reads what was sent for a form's fields, and what is wrong with it, field by field. */
export function readForm(form: ElementOf<'form'>, body: Record<string, unknown>): { values: Record<string, string>; errors: Record<string, string> } {
  const values: Record<string, string> = {};
  const errors: Record<string, string> = {};
  for (const field of form.fields) {
    const sent = body[field.key];
    const value = typeof sent === 'string' ? sent.trim() : '';
    values[field.key] = value.slice(0, MAX_ANSWER + 100);
    if (value === '') {
      if (field.required) errors[field.key] = 'Please fill this in.';
    } else if (field.kind === 'email') {
      const email = EmailSchema.safeParse(value);
      if (!email.success) errors[field.key] = email.error.issues[0]?.message ?? 'Enter an e-mail address.';
    } else if (value.length > MAX_ANSWER) {
      errors[field.key] = `Keep this under ${MAX_ANSWER} characters.`;
    } else if (field.kind === 'choice' && !field.choices?.includes(value)) {
      errors[field.key] = 'Choose one of the answers.';
    }
  }
  return { values, errors };
}
