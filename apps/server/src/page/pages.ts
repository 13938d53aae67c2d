import type { IncomingMessage, ServerResponse } from 'node:http';
import { presetOf } from '@ruta/core/checkout';
import { OFFLINE_WORDS, type OfflinePage, thanksForOrder } from '@ruta/core/funnel';
import { mainOffer } from '@ruta/core/offers';
import { isConditional, isPersonalPage, shownPage, versionKey } from '@ruta/core/page';
import { type NextFunction, type Request, type Response, Router } from 'express';
import { cookieOf, giveCookie } from '../base/cookies';
import { personAt } from '../base/limits';
import { sendHtml } from '../base/sendHtml';
import type { Closed } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import { closedAnswer, closedHere } from '../checkout/closed';
import { guestOf } from '../checkout/guest';
import { sendOfferAnswer } from '../checkout/offerSite';
import { openOffers } from '../checkout/takeOffer';
import { openCheckout, soldAt } from '../checkout/view';
import { tryCode } from '../codes/tries';
import { orderByToken } from '../delivery/orderLink';
import { orderView } from '../delivery/orderView';
import { releaseReceipt } from '../delivery/receipt';
import { whoAsks } from '../delivery/whoAsks';
import { gatherFacts } from '../facts/gather';
import { whoOf } from '../facts/who';
import { type LiveServices, type LiveStep, stepPath, type Who } from '../funnel/live';
import { orderAddress } from '../orders/address';
import { latestOrderOf } from '../orders/store';
import type { Paying } from '../payments/accounts';
import { declineMessage } from '../payments/messages';
import type { KeptPages } from '../site/keptPages';
import { pagePolicy } from '../site/policy';
import { purchasesOf } from '../site/purchases';
import { renderMessage } from '../site/renderMessage';
import { renderStep } from '../site/renderStep';
import type { AsksRegister } from '../taxNumbers/register';
import { noteArrival } from '../tracking/arrival';
import type { Tracked } from '../tracking/recorder';
import { giveVisitorId, isFramed, visitorOf } from '../tracking/visitor';
import { closingTimes } from './closingTimes';
import { GIFT_SENT, giftNotice } from './giftSent';
import { isUntouched, untouchedCheckout } from './untouchedCheckout';

type Needs = Tracked & Paying & LiveServices & { kept: KeptPages } & AsksRegister;

const CODE_COOKIE = 'ruta_code';
const CODE_SECONDS = 30 * 24 * 60 * 60;
/** What an answer to a page needs beside its own headers. */
export const PAGE_HEADERS = { 'x-content-type-options': 'nosniff', 'referrer-policy': 'strict-origin-when-cross-origin' };

/**
 * Answers for pages that are the same for everybody, before the framework: they are what most visitors see.
 * @returns whether the request was for such a page, and is answered; everything else goes on
 */
export function pageDoor(services: Needs): (request: IncomingMessage, response: ServerResponse) => boolean {
  const closesAt = closingTimes(services);
  const steps = addressBook(services);
  return (request, response) => {
    if (request.method !== 'GET' && request.method !== 'HEAD') return false;
    const { url = '' } = request;
    const mark = url.indexOf('?');
    const path = mark < 0 ? url : url.slice(0, mark);
    if (mark >= 0 && (url.includes('code=', mark) || url.includes(GIFT_SENT, mark))) return false;
    const base = steps(path, undefined);
    if (!base) return false;
    const isTested = services.live.isTestedAt(base.live.publication.snapshot.slug);
    const asked = () => whoOf(services, request, mark < 0 ? {} : Object.fromEntries(new URLSearchParams(url.slice(mark))));
    let step = base;
    if (isTested) {
      giveVisitorId(services, request, response);
      const seen = steps(path, asked());
      if (!seen) return false;
      step = seen;
    }
    const now = services.clock.now();
    const closes = closesAt(step.live);
    if (closes !== undefined && closes <= now) return false;
    giveVisitorId(services, request, response);
    if (mark >= 0) noteArrival(services, request, Object.fromEntries(new URLSearchParams(url.slice(mark))));
    // Of a page with conditions one copy is kept for each version of it; which one is decided by what is known here.
    const facts = step.isConditional ? asked().facts() : null;
    const key = keptKey(step.live, facts ? versionKey(step.live.page, facts) : '');
    const page = services.kept.get(key, now, () => renderStep(services, facts ? { ...step.live, page: shownPage(step.live.page, facts) } : step.live));
    const headers = {
      ...PAGE_HEADERS,
      'content-security-policy': step.policy,
      etag: page.etag,
      'cache-control': facts || isTested ? 'private, no-cache' : 'no-cache',
      vary: 'accept-encoding',
    };
    if (request.headers['if-none-match'] === page.etag) {
      response.writeHead(304, headers).end();
      return true;
    }
    const zipped = /\bgzip\b(?!\s*;\s*q=0(?:\.0*)?(?:,|$))/.test(String(request.headers['accept-encoding'] ?? ''));
    const body = zipped ? page.gzip : page.html;
    response.writeHead(200, {
      ...headers,
      'content-type': 'text/html; charset=utf-8',
      'content-length': body.length,
      ...(zipped ? { 'content-encoding': 'gzip' } : {}),
    });
    response.end(request.method === 'HEAD' ? undefined : body);
    return true;
  };
}

interface Addressed {
  live: LiveStep;
  /** Which parts are shown depends on the visitor. */
  isConditional: boolean;
  /** What the page may load, from where. */
  policy: string;
}

/** Under what a page is kept: its stop, what tests show of it, and which of its conditional parts are shown. */
const keptKey = ({ step, variant }: LiveStep, version: string): string => [step.id, variant, version].filter(Boolean).join(' ');

/** Finds pages that are the same for everybody by their path; each version of a path is looked up once until something changes. */
function addressBook(services: Pick<Needs, 'db' | 'clock' | 'config' | 'live' | 'changes'>): (path: string, who: Who | undefined) => Addressed | null {
  const { live, changes } = services;
  const known = new Map<string, Addressed | null>();
  changes.onChange(() => known.clear());
  const lookUp = (path: string, who: Who | undefined): LiveStep | undefined => {
    const [, funnelSlug = '', stepSlug, more] = path.split('/');
    return more === undefined ? live.at(funnelSlug, stepSlug || undefined, who) : undefined;
  };
  return (path, who) => {
    const seen = who && lookUp(path, who);
    const key = seen?.variant ? `${path} ${seen.variant}` : path;
    let found = known.get(key);
    if (found === undefined) {
      const step = seen ?? lookUp(path, undefined);
      found = step && !isPersonalPage(step.page) ? { live: step, isConditional: isConditional(step.page), policy: pagePolicy(services, step) } : null;
      // Only what is there: a stranger asking for made-up addresses must not fill the memory.
      if (found) known.set(key, found);
    }
    return found;
  };
}

/** Every other page: those that know their visitor, come with a code, or sell what has closed. */
export function pageRoutesOfSite(services: Needs): Router {
  const router = Router();
  const { db, clock } = services;
  const closesAt = closingTimes(services);
  router.get('/:funnelSlug', page);
  router.get('/:funnelSlug/:stepSlug', page);

  function page(request: Request, response: Response, next: NextFunction) {
    const { funnelSlug = '', stepSlug } = request.params as Record<string, string | undefined>;
    giveVisitorId(services, request, response);
    noteArrival(services, request, request.query);
    const who = whoAsks(services, request, request.query);
    const live = services.live.at(funnelSlug, stepSlug, who);
    if (!live) {
      const offline = services.live.offlineAt(funnelSlug);
      if (offline) return tellOffline(request, response, offline);
      const instead = services.live.insteadOf(funnelSlug, stepSlug);
      if (instead) return response.set('cache-control', 'no-store').redirect(302, stepPath(instead));
      // Links that are out in the world go on leading to what they were made for.
      const moved = services.live.formerlyAt(funnelSlug, stepSlug);
      const mark = request.originalUrl.indexOf('?');
      return moved ? response.set('cache-control', 'no-cache').redirect(301, stepPath(moved) + (mark < 0 ? '' : request.originalUrl.slice(mark))) : next();
    }
    response.set('content-security-policy', pagePolicy(services, live));
    if (typeof request.query.code === 'string') rememberCode(request, response, request.query.code);
    // What has closed by its date leads elsewhere from every page that offers it; the date is looked at on each view.
    const closes = closesAt(live);
    if (closes !== undefined && closes <= clock.now()) {
      const offer = mainOffer(live.step);
      const product = offer && findProduct(db, offer.productId);
      const closed = product && offer && closedHere(services, product, offer, null);
      if (product && closed) return tellClosed(request, response, live, closed);
    }
    // A cart, and what is added to an order, belong to the browser that made them.
    if (isPersonalPage(live.page) || live.step.kind === 'thank-you') return personal(request, response, live, giveVisitorId(services, request, response, true));
    const seen = isConditional(live.page) ? { ...live, page: shownPage(live.page, who.facts()) } : live;
    const notice = giftNotice(request.query);
    if (notice)
      return response
        .set('cache-control', 'private, no-cache')
        .type('html')
        .send(renderStep(services, seen, { notice }));
    const html = seen === live ? services.kept.get(keptKey(live, ''), clock.now(), () => renderStep(services, live)).html : renderStep(services, seen);
    const isSame = seen === live && !services.live.isTestedAt(live.publication.snapshot.slug);
    return response
      .set('cache-control', isSame ? 'no-cache' : 'private, no-cache')
      .type('html')
      .send(html);
  }

  /** A page that knows its visitor: the checkout with what is known filled in, the order just paid. */
  function personal(request: Request, response: Response, live: LiveStep, visitorId: string) {
    if (live.step.kind === 'offer') return offered(request, response, live, visitorId);
    // Who said no to an offer after their gift comes here without an order’s address; their own browser knows the gift.
    const own = live.step.kind === 'thank-you' ? latestOrderOf(db, visitorId, live.publication.funnelId) : undefined;
    const order = orderByToken(services, request.query.order ?? own?.token);
    const { graph } = live.publication.snapshot;
    if (!order && thanksForOrder(graph, live.step, visitorOf(services, request)?.contactId != null)) return noOrder(response, live);
    // Who has come past every offer has bought what they buy.
    if (order) releaseReceipt(services, order.id);
    const sold = soldAt(services, live);
    const checkout = sold
      ? openCheckout(services, live, sold, {
          visitor: visitorOf(services, request),
          visitorId,
          person: personAt(request.ip),
          acceptLanguage: request.get('accept-language') ?? '',
          again: request.query.again === '1',
          cartToken: typeof request.query.cart === 'string' ? request.query.cart : undefined,
          preset: presetOf(request.query),
          savedCode: cookieOf(request, CODE_COOKIE),
        })
      : null;
    // Who has just bought the last one is shown their order, not that it is sold out.
    // Nor is who holds it, and comes back from their bank.
    const closed = sold && !order && !checkout?.paidOrder ? closedHere(services, sold.product, sold.offer, checkout?.cartId ?? null) : undefined;
    if (closed) return tellClosed(request, response, live, closed);
    if (checkout && typeof request.query.declined === 'string')
      Object.assign(checkout, { message: declineMessage(request.query.declined), isOfCard: request.query.declined !== 'sold-out' });
    const visitor = visitorOf(services, request);
    const cart = checkout ? { quote: checkout.quote, country: checkout.values.country ?? '' } : null;
    const known = { visitor, order: order ?? null, cart, acceptLanguage: request.get('accept-language') };
    const facts = isConditional(live.page) ? gatherFacts(services, known) : null;
    const seen = facts ? { ...live, page: shownPage(live.page, facts) } : live;
    const personal = {
      notice: giftNotice(request.query),
      ...(order ? orderView(services, order) : { buyer: null }),
      ...(checkout ? { checkout, buyer: { firstName: checkout.values.firstName ?? '' } } : {}),
    };
    const purchases = purchasesOf(services, request, order);
    const framed = isFramed(request);
    const isFresh = checkout && !order && personal.notice === null && purchases.length === 0 && isUntouched(checkout);
    const html = isFresh
      ? untouchedCheckout(services, checkout, `${keptKey(live, facts ? versionKey(live.page, facts) : '')} ${framed}`, (form) =>
          renderStep(services, seen, { ...personal, checkout: form }, [], framed),
        )
      : renderStep(services, seen, personal, purchases, framed);
    // Kept nowhere, so that going back asks again and shows what has been paid meanwhile.
    return sendHtml(request, response.set('cache-control', 'private, no-store'), html);
  }

  /** What is offered after the payment, to the buyer of an order; one who comes without its address is known by their browser. */
  function offered(request: Request, response: Response, live: LiveStep, visitorId: string) {
    const token = request.query.order ?? latestOrderOf(db, visitorId, live.publication.funnelId)?.token;
    const refused = typeof request.query.declined === 'string';
    const state = refused ? { message: declineMessage(String(request.query.declined)), refused } : {};
    return sendOfferAnswer(services, response, openOffers(services, live, token, guestOf(services, request), state));
  }

  /** A page of thanks that somebody without an order came to, by a link that was passed on or in another browser. */
  function noOrder(response: Response, live: LiveStep) {
    const { publication } = live;
    const first = publication.snapshot.graph.steps.find(({ id }) => id === publication.snapshot.graph.entryId) ?? live.step;
    return response
      .set('cache-control', 'private, no-store')
      .type('html')
      .send(
        renderMessage(
          services,
          'There is no order here',
          'This page shows an order that was placed in this browser. Have you ordered? Your receipt has a link to your order.',
          {
            link: { words: 'Go to the first page', href: stepPath({ publication, step: first }) },
          },
        ),
      );
  }

  /** Leads on from a funnel that was taken offline, with whatever the address carried; or says that it is. */
  function tellOffline(request: Request, response: Response, page: OfflinePage) {
    response.set('cache-control', 'no-store');
    // Whoever has paid meanwhile comes to their order.
    const order = orderByToken(services, request.query.order);
    if (order) return response.redirect(302, orderAddress(services, order.token));
    const step = page.kind === 'step' ? services.live.step(page.stepId) : undefined;
    const mark = request.originalUrl.indexOf('?');
    if (step) return response.redirect(302, stepPath(step) + (mark < 0 ? '' : request.originalUrl.slice(mark)));
    if (page.kind === 'address') return response.redirect(302, page.url);
    return response
      .status(503)
      .type('html')
      .send(renderMessage(services, (page.kind === 'message' && page.words) || OFFLINE_WORDS, 'Write to us if you are looking for something you have bought.'));
  }

  function tellClosed(request: Request, response: Response, live: LiveStep, closed: Closed) {
    const offer = mainOffer(live.step);
    const product = offer && findProduct(db, offer.productId);
    const facts = gatherFacts(services, { visitor: visitorOf(services, request), acceptLanguage: request.get('accept-language') });
    const { url, message } = product ? closedAnswer(services, live, product, closed, facts) : { url: null, message: closed.message };
    response.set('cache-control', 'private, no-store');
    // Whoever lost the last place at their bank is told of their money first.
    const lost = request.query.declined === 'sold-out';
    if (url && !lost) return response.redirect(302, url);
    return response
      .status(410)
      .type('html')
      .send(
        renderMessage(
          services,
          closed.message,
          lost ? declineMessage('sold-out') : message === closed.message ? 'Write to us if you would like to know when it opens again.' : message,
        ),
      );
  }

  /** A code that came with a link is remembered for the checkout, however many pages lie between. */
  function rememberCode(request: Request, response: Response, typed: string): void {
    const { code } = tryCode(services, personAt(request.ip), typed.slice(0, 40));
    if (code) giveCookie(response, CODE_COOKIE, code.terms.code, { httpOnly: true, sameSite: 'lax', maxAge: CODE_SECONDS, path: '/' });
  }

  return router;
}
