import { formValues, type OrderForm, OrderFormSchema, type OrderValues } from '@ruta/core/checkout';
import { needsCard, storedQuote } from '@ruta/core/pricing';
import type { CheckoutView } from '@ruta/pages';
import { renderQuote } from '@ruta/pages/render';
import express, { type Request, type Response, Router } from 'express';
import { closedBecause } from '../catalog/availability';
import { gatherFacts } from '../facts/gather';
import { type LiveServices, type LiveStep, stepPath } from '../funnel/live';
import { paidOrderOf } from '../orders/store';
import type { NewOrder } from '../orders/write';
import type { Paying } from '../payments/accounts';
import { declineMessage } from '../payments/messages';
import { payCart } from '../payments/pay';
import { whereTo } from '../payments/whereTo';
import { loadShop } from '../shop/store';
import { renderMessage } from '../site/renderMessage';
import { renderStep } from '../site/renderStep';
import type { Tracked } from '../tracking/recorder';
import { countedVisitor, makeEvent, visitorIdOf, visitorOf } from '../tracking/visitor';
import { cartByToken, saveCart } from './cart';
import { closedAnswer } from './closed';
import { holdFor, wantedOf } from './holds';
import { tellOwner } from './ownership';
import { type QuotedCart, quoteValues } from './quotedCart';
import { checkoutView, chosenCountry, isShipped, missingFields, ownsAlready, quoteFacts, shownFields, soldAt } from './view';

/** Paying: the order form, its live total, and the link that brings a cart back. */
export function checkoutSite(services: Tracked & Paying & LiveServices): Router {
  const router = Router();
  const { db, config } = services;
  const bodies = [express.urlencoded({ extended: false, limit: '32kb' }), express.json({ limit: '32kb' })];

  const refuse = (request: Request, response: Response, status: number, message: string) =>
    wantsJson(request)
      ? response.status(status).json({ message })
      : response
          .status(status)
          .type('html')
          .send(renderMessage(services, 'This did not work', message));

  /** The live checkout and what it sells, or a refusal: ids come from the browser and may be anything. */
  function findCheckout(request: Request, response: Response) {
    const live = services.live.step(String(request.params.stepId));
    const sold = live && soldAt(services, live);
    if (!live || !sold) {
      refuse(request, response, 404, 'This checkout does not exist, or nothing is sold here any more. Nothing was charged.');
      return null;
    }
    const values = formValues(request.body);
    const closed = closedBecause(services, sold.product, values.cart ?? null);
    if (closed) {
      const facts = gatherFacts(services, { visitor: visitorOf(services, request), acceptLanguage: request.get('accept-language') });
      const { url } = closedAnswer(services, live, sold.product, closed, facts);
      if (wantsJson(request)) response.status(409).json(url ? { redirect: url } : { message: `${closed.message} Nothing was charged.` });
      else if (url) response.redirect(303, url);
      else refuse(request, response, 409, `${closed.message} Nothing was charged.`);
      return null;
    }
    // A code that the form does not ask for can only have come with a link, and is then among the values.
    const country = chosenCountry(services, sold.product, values.country);
    return { live, sold, values, country, quoted: quoteValues(services, sold, values, country, values.cart ?? null) };
  }

  router.get('/cart/:token', (request, response) => {
    const cart = cartByToken(db, request.params.token);
    const live = cart && services.live.step(cart.stepId);
    response.set('cache-control', 'no-store');
    if (!cart || !live) return refuse(request, response, 404, 'This cart is not here any more. Nothing was charged.');
    return response.redirect(303, `${stepPath(live)}?cart=${cart.token}`);
  });

  router.post('/pay/:stepId/quote', bodies, (request: Request, response: Response) => {
    const found = findCheckout(request, response);
    if (!found) return;
    const { quote, errors } = found.quoted;
    response.json({ quote: { html: renderQuote(quote), ...quoteFacts(quote) }, errors });
  });

  router.post('/pay/:stepId/contact', bodies, (request: Request, response: Response) => {
    const found = findCheckout(request, response);
    if (!found) return;
    const parsed = OrderFormSchema.pick({ cart: true, email: true }).safeParse(request.body);
    if (!parsed.success) {
      response.status(400).json({ message: 'There is no address to keep yet.' });
      return;
    }
    beginCheckout(request, found.live, parsed.data.cart, found.quoted, found.values);
    response.status(200).json({});
  });

  router.post('/pay/:stepId', bodies, async (request: Request, response: Response) => {
    // Sent again after it was paid: led to the order, whatever has been sold out or closed meanwhile.
    const paid = paidOrderOf(db, formValues(request.body).cart, visitorIdOf(request) ?? null);
    if (paid) return lead(request, response, whereTo(services, { state: 'paid', order: paid }));
    const found = findCheckout(request, response);
    if (!found) return;
    const { live, sold, values, country, quoted } = found;
    const { product } = sold;
    const { quote } = quoted;
    const sent = isShipped(quote);
    const show = (status: number, view: Partial<CheckoutView>) =>
      showAgain(request, response, status, live, {
        ...checkoutView(services, live, sold, quoted, { ...values, country }, values.cart ?? ''),
        ...view,
      });

    const parsed = OrderFormSchema.safeParse(request.body);
    const errors: Record<string, string> = {
      ...quoted.errors,
      ...missingFields(live, sent, values),
      ...(parsed.success ? {} : Object.fromEntries(parsed.error.issues.map((issue) => [String(issue.path[0]), issue.message]))),
    };
    if (values.country && values.country !== country) errors.country = 'We do not sell to this country. Choose another.';
    if (!parsed.success || Object.keys(errors).length > 0) {
      const shownAt = new Set(shownFields(live, sent));
      const elsewhere = Object.entries(errors).find(([name]) => !shownAt.has(name))?.[1] ?? null;
      return show(422, { errors, message: elsewhere });
    }
    const form = parsed.data;
    if (!beginCheckout(request, live, form.cart, quoted, values))
      return refuse(request, response, 409, 'This cart belongs to another checkout. Reload the page; nothing was charged.');
    if (form.shown !== quote.dueToday) {
      return show(409, {
        message: `The total has changed to ${quoteFacts(quote).total} since you opened this page. Nothing was charged. Look it over, then press the button again.`,
      });
    }
    if (needsCard(quote) && form.token === '') return show(422, { message: 'Enter your card details to pay.' });
    const owner = ownsAlready(services, product, form.email, form.cart);
    if (owner) {
      // Who owns what is told to the address alone, never to whoever typed it.
      tellOwner(services, owner, product);
      return show(409, { message: 'We have written to this address about your order; look into your mailbox. Nothing was charged.' });
    }
    const refused = holdFor(services, { cartId: form.cart, email: form.email.toLowerCase(), ...wantedOf(db, quote), code: quoted.code });
    if (refused) return show(409, { errors: { [refused.field]: refused.message }, message: refused.message });
    const outcome = await payCart(
      services,
      orderOf(request, live, form, country, quoted),
      form.token,
      (order) => `${config.siteUrl}/pay/return/${order.token}?from=bank`,
    );
    if (outcome.state === 'declined') return show(402, { message: declineMessage(outcome.reason) });
    return lead(request, response, whereTo(services, outcome));
  });

  /** Keeps the cart and says once that a checkout was begun. @returns false if the cart is somebody else's */
  function beginCheckout(request: Request, live: LiveStep, cartId: string, { lines }: QuotedCart, values: OrderValues): boolean {
    const visitor = countedVisitor(services, request);
    const { isNew, belongs } = saveCart(services, live, cartId, visitorIdOf(request) ?? null, lines, values);
    if (isNew && visitor) {
      services.recorder.gather(
        makeEvent(services, 'checkout.started', loadShop(db).settings.mode, visitor, { funnelId: live.publication.funnelId, stepId: live.step.id }),
        visitor,
      );
    }
    return belongs;
  }

  function orderOf(request: Request, live: LiveStep, form: OrderForm, country: string, { quote, code }: QuotedCart): NewOrder {
    const visitor = countedVisitor(services, request);
    return {
      funnelId: live.publication.funnelId,
      stepId: live.step.id,
      cartId: form.cart,
      visitorId: visitor?.id ?? null,
      mode: loadShop(db).settings.mode,
      quote: storedQuote(quote),
      codeId: code?.id ?? null,
      buyer: {
        email: form.email.toLowerCase(),
        firstName: form.firstName,
        lastName: form.lastName,
        country,
        ...(quote.taxRegion ? { region: quote.taxRegion } : {}),
        ...(quote.taxNumber?.valid ? { taxNumber: quote.taxNumber.number } : {}),
        ...(isShipped(quote) ? { address: { street: form.street, postcode: form.postcode, city: form.city } } : {}),
      },
      campaign: visitor?.lastCampaign ?? null,
    };
  }

  /** Shows the checkout as the buyer left it, with what is wrong at its place. */
  function showAgain(request: Request, response: Response, status: number, live: LiveStep, view: CheckoutView): void {
    if (wantsJson(request)) {
      response.status(status).json({ message: view.message, errors: view.errors, quote: { html: renderQuote(view.quote), ...quoteFacts(view.quote) } });
      return;
    }
    response
      .status(status)
      .set('cache-control', 'no-store')
      .type('html')
      .send(renderStep(services, live, { checkout: view }));
  }

  return router;
}

function lead(request: Request, response: Response, url: string): void {
  if (wantsJson(request)) response.json({ redirect: url });
  else response.redirect(303, url);
}

const wantsJson = (request: Request) => request.accepts(['html', 'json']) === 'json';
