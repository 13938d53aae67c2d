import { allElements, isElementOf, needsCard, nextStep } from '@ruta/core';
import type { CheckoutView } from '@ruta/pages';
import { renderQuote } from '@ruta/pages/render';
import express, { type Request, type Response, Router } from 'express';
import { closedBecause } from '../catalog/availability';
import type { PaymentProvider } from '../payments/provider';
import { holdFor } from '../sales/holds';
import { declineMessage } from '../sales/messages';
import { outcomeOf, type PayOutcome, payCart } from '../sales/pay';
import { reconcileOrder, settleByKey } from '../sales/reconcile';
import { findOrderByToken, linesOf, type OrderRow, ownedProducts, paidOrderOf } from '../sales/store';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { countedVisitor, makeEvent, visitorIdOf } from '../tracking/visitor';
import {
  checkoutView,
  chosenCountry,
  fieldValues,
  isSent,
  keepCart,
  missingFields,
  type OrderForm,
  OrderFormSchema,
  ownsAlready,
  productOf,
  quoteFacts,
} from './checkout';
import { closedAnswer } from './closed';
import { stepPath } from './context';
import { orderAddress } from './links';
import { type Offer, quoteOffer, type Values, wantedOf } from './offer';
import { outsideAddress } from './orderView';
import type { LiveStep } from './publicPages';
import { renderMessage, renderStep } from './renderStep';

const WAIT_SECONDS = 2;

/** Paying: the order form, its live total, the return from a bank, and the processor's webhooks. */
export function checkoutRoutes(services: Services, provider: PaymentProvider): Router {
  const router = Router();
  const { db } = services;
  const bodies = [express.urlencoded({ extended: false, limit: '32kb' }), express.json({ limit: '32kb' })];

  const refuse = (request: Request, response: Response, status: number, message: string) =>
    wantsJson(request)
      ? response.status(status).json({ message })
      : response
          .status(status)
          .type('html')
          .send(renderMessage(services, 'This did not work', message));

  /** The live checkout and its product, or a refusal: ids come from the browser and may be anything. */
  function findCheckout(request: Request, response: Response) {
    const live = services.publicPages.step(String(request.params.stepId));
    const product = live && productOf(services, live);
    if (!live || !product) {
      refuse(request, response, 404, 'This checkout does not exist, or nothing is sold here any more. Nothing was charged.');
      return null;
    }
    const values = fieldValues(request.body);
    const closed = closedBecause(services, product, values.cart ?? null);
    if (closed) {
      const { url } = closedAnswer(services, live, product, closed);
      if (wantsJson(request)) response.status(409).json(url ? { redirect: url } : { message: `${closed.message} Nothing was charged.` });
      else if (url) response.redirect(303, url);
      else refuse(request, response, 409, `${closed.message} Nothing was charged.`);
      return null;
    }
    // A code that the form does not ask for can only have come with a link, and is then among the values.
    return { live, product, values, country: chosenCountry(services, product, values.country) };
  }

  router.post('/pay/:stepId/quote', bodies, (request: Request, response: Response) => {
    const found = findCheckout(request, response);
    if (!found) return;
    const { quote, errors } = quoteOffer(services, found.product, found.values, found.country, found.values.cart ?? null);
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
    beginCheckout(request, found.live, parsed.data.cart, found.values);
    response.status(200).json({});
  });

  router.post('/pay/:stepId', bodies, async (request: Request, response: Response) => {
    // Sent again after it was paid: led to the order, whatever has been sold out or closed meanwhile.
    const paid = paidOrderOf(db, fieldValues(request.body).cart, visitorIdOf(request) ?? null);
    if (paid) return lead(request, response, whereTo({ state: 'paid', order: paid }));
    const found = findCheckout(request, response);
    if (!found) return;
    const { live, product, values, country } = found;
    const offer = quoteOffer(services, product, values, country, values.cart ?? null);
    const { quote } = offer;
    const show = (status: number, view: Partial<CheckoutView>) =>
      showAgain(request, response, status, live, {
        ...checkoutView(services, live, product, offer, { ...values, country }, values.cart ?? ''),
        ...view,
      });

    const parsed = OrderFormSchema.safeParse(request.body);
    const errors: Record<string, string> = {
      ...offer.errors,
      ...missingFields(services, live, product, values),
      ...(parsed.success ? {} : Object.fromEntries(parsed.error.issues.map((issue) => [String(issue.path[0]), issue.message]))),
    };
    if (!errors.email && values.email && ownsAlready(services, product, values.email, values.cart ?? '')) {
      errors.email = `Somebody with this address has ${product.name} already. It can be bought once; the receipt leads to it.`;
    }
    if (values.country && values.country !== country) errors.country = 'We do not sell to this country. Choose another.';
    if (!parsed.success || Object.keys(errors).length > 0) {
      const shownAt = new Set(fieldsOf(live, isSent(services, product)));
      const elsewhere = Object.entries(errors).find(([name]) => !shownAt.has(name))?.[1] ?? null;
      return show(422, { errors, message: elsewhere });
    }
    const form = parsed.data;
    if (!beginCheckout(request, live, form.cart, values))
      return refuse(request, response, 409, 'This cart belongs to another checkout. Reload the page; nothing was charged.');
    if (form.shown !== quote.dueToday) {
      return show(409, {
        message: `The total has changed to ${quoteFacts(quote).total} since you opened this page. Nothing was charged. Look it over, then press the button again.`,
      });
    }
    if (needsCard(quote) && form.token === '') return show(422, { message: 'Enter your card details to pay.' });
    const refused = holdFor(services, { cartId: form.cart, email: form.email.toLowerCase(), ...wantedOf(db, offer.quote), code: offer.code });
    if (refused) return show(409, { errors: { [refused.field]: refused.message }, message: refused.message });
    const outcome = await payCart(
      services,
      provider,
      orderOf(request, live, form, country, offer),
      form.token,
      (order) => `${services.config.siteUrl}/pay/return/${order.token}`,
    );
    if (outcome.state === 'declined') return show(402, { message: declineMessage(outcome.reason) });
    return lead(request, response, whereTo(outcome));
  });

  router.get('/pay/return/:token', async (request, response) => {
    const order = findOrderByToken(db, String(request.params.token));
    if (!order) return refuse(request, response, 404, 'This payment is not known here.');
    await reconcileOrder(services, provider, order.id);
    const outcome = outcomeOf(db, order.id);
    response.set('cache-control', 'no-store');
    const live = services.publicPages.step(order.stepId);
    const checkoutPath = live ? stepPath(live) : '/';
    if (outcome.state === 'declined') return response.redirect(303, `${checkoutPath}?declined=${encodeURIComponent(outcome.reason)}`);
    if (outcome.state === 'paid') return response.redirect(303, whereTo(outcome));
    return response.type('html').send(
      renderMessage(
        services,
        'One moment',
        'The bank has your payment and we are waiting for its answer. This page looks again by itself. You will not be charged twice.',
        {
          refreshSeconds: WAIT_SECONDS,
          link: { words: 'Look again now', href: request.originalUrl },
        },
      ),
    );
  });

  router.post('/webhooks/quayside', express.text({ type: '*/*', limit: '64kb' }), async (request, response) => {
    const headers = Object.fromEntries(Object.entries(request.headers).map(([name, value]) => [name, String(value)]));
    const key = provider.readWebhook(headers, String(request.body));
    if (key === null) {
      response.status(400).json({ message: 'The signature does not fit.' });
      return;
    }
    // A charge of another installation is nothing to be told again.
    await settleByKey(services, provider, key);
    response.status(204).end();
  });

  /** Where a buyer goes once the outcome of a payment is known. */
  function whereTo(outcome: PayOutcome): string {
    const { order } = outcome;
    if (outcome.state === 'confirm') return outcome.url;
    if (outcome.state !== 'paid') return `/pay/return/${order.token}`;
    const live = services.publicPages.step(order.stepId);
    const next = live && nextStep(live.publication.snapshot.graph, order.stepId, 'paid', factsOf(order));
    // A product may send its buyers elsewhere, once every offer of the funnel has been made.
    const elsewhere = next?.step.kind === 'thank-you' || !next ? outsideAddress(services, order) : undefined;
    if (elsewhere) return elsewhere;
    return live && next ? `${stepPath({ ...live, step: next.step })}?order=${order.token}` : orderAddress(services, order.token);
  }

  function factsOf(order: OrderRow) {
    return {
      ownsProducts: order.contactId ? ownedProducts(db, order.contactId) : [],
      boughtProducts: linesOf(db, order.id).map((line) => line.productId),
      tags: [],
      orderTotal: order.quote.orderTotal,
      country: order.buyer.country,
    };
  }

  /** Keeps the cart and says once that a checkout was begun. @returns false if the cart is somebody else's */
  function beginCheckout(request: Request, live: LiveStep, cartId: string, values: Values): boolean {
    const visitor = countedVisitor(services, request);
    const { isNew, belongs } = keepCart(services, live, cartId, visitorIdOf(request) ?? null, values);
    if (isNew && visitor) {
      services.recorder.gather(
        makeEvent(services, 'checkout.started', loadShop(db).settings.mode, visitor, { funnelId: live.publication.funnelId, stepId: live.step.id }),
        visitor,
      );
    }
    return belongs;
  }

  function orderOf(request: Request, live: LiveStep, form: OrderForm, country: string, { quote, code }: Offer) {
    const visitor = countedVisitor(services, request);
    const sent = quote.shipping !== null || quote.later.some((payment) => payment.shipping !== null);
    return {
      funnelId: live.publication.funnelId,
      stepId: live.step.id,
      cartId: form.cart,
      visitorId: visitor?.id ?? null,
      mode: loadShop(db).settings.mode,
      quote,
      codeId: code?.id ?? null,
      buyer: {
        email: form.email.toLowerCase(),
        firstName: form.firstName,
        lastName: form.lastName,
        country,
        ...(quote.taxRegion ? { region: quote.taxRegion } : {}),
        ...(quote.taxNumber?.valid ? { taxNumber: quote.taxNumber.number } : {}),
        ...(sent ? { address: { street: form.street, postcode: form.postcode, city: form.city } } : {}),
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

/** Names of the fields that this checkout shows, where an error can be said. */
function fieldsOf(live: LiveStep, sent: boolean): string[] {
  const form = allElements(live.page).find((element) => isElementOf(element, 'order-form'));
  if (!form || !isElementOf(form, 'order-form')) return [];
  return [
    ...['firstName', 'lastName', 'email', 'street', 'postcode', 'city', 'option', 'chosen'],
    ...(form.askCountry || sent ? ['country', 'region'] : []),
    ...(form.askQuantity ? ['quantity'] : []),
    ...(form.askTaxNumber ? ['taxNumber'] : []),
    ...(form.hideCode ? [] : ['code']),
  ];
}
