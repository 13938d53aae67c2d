import { type Product, thankYouPage } from '@ruta/core';
import { renderPage } from '@ruta/pages/render';
import express, { type NextFunction, type Request, type Response, Router } from 'express';
import { type Closed, closedBecause } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import { findCode } from '../codes/store';
import { assetRoutes } from '../files/routes';
import { parseCookie } from '../http/cookies';
import { newId } from '../ids';
import type { PaymentProvider } from '../payments/provider';
import { declineMessage } from '../sales/messages';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { giveVisitorId, visitorOf } from '../tracking/visitor';
import { openCheckout, presetOf, productOf } from './checkout';
import { checkoutRoutes } from './checkoutRoutes';
import { closedAnswer } from './closed';
import { isPersonal, stepPath } from './context';
import { downloadRoutes } from './downloadRoutes';
import { leadRoutes } from './leadRoutes';
import { orderByToken, orderView } from './orderView';
import type { LiveStep } from './publicPages';
import { keepPage, renderMessage, renderStep } from './renderStep';
import { handleTeamLink } from './teamMark';

const CODE_COOKIE = 'ruta_code';
const CODE_KEPT_MS = 30 * 24 * 60 * 60 * 1000;

/** The public site: everything visitors and buyers see. */
export function siteRoutes(services: Services, provider: PaymentProvider): Router {
  const router = Router();
  const { db, config, clock } = services;

  // What is asked for most stands first.
  router.get('/:funnelSlug', page);
  router.get('/:funnelSlug/:stepSlug', page);

  router.get('/favicon.svg', (_request, response) => {
    const shop = services.publicPages.shop();
    const letter = (shop?.settings.name ?? 'R').trim().charAt(0).toUpperCase().replace(/[<&]/g, '');
    response
      .set('cache-control', 'public, max-age=3600')
      .type('image/svg+xml')
      .send(
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32"><rect width="32" height="32" rx="6" fill="${shop?.brand.main ?? '#1F3A34'}"/><text x="16" y="23" font-family="Georgia,serif" font-size="20" text-anchor="middle" fill="${shop?.brand.ground ?? '#FFFFFF'}">${letter}</text></svg>`,
      );
  });
  router.get('/robots.txt', (_request, response) => {
    response
      .type('text/plain')
      .send(`User-agent: *\nDisallow: /pay/\nDisallow: /go/\nDisallow: /d/\nDisallow: /order/\nSitemap: ${config.siteUrl}/sitemap.xml\n`);
  });
  router.use(assetRoutes(services));
  const yearMs = 365 * 24 * 60 * 60 * 1000;
  router.use('/assets/scripts', express.static(config.assets.scripts, { maxAge: yearMs, immutable: true, index: false }));

  router.use((_request, response, next) => {
    if (services.publicPages.shop()) return next();
    return response.status(503).type('text/plain').send(`This shop is not set up yet. Open ${config.studioUrl} to begin.`);
  });
  router.get('/sitemap.xml', (_request, response) => {
    const addresses = services.publicPages
      .all()
      .flatMap((publication) =>
        publication.snapshot.graph.steps
          .filter((step) => publication.snapshot.pages[step.id]?.indexed)
          .map((step) => config.siteUrl + stepPath({ publication, step })),
      );
    response
      .type('application/xml')
      .send(
        `<?xml version="1.0" encoding="UTF-8"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${addresses.map((address) => `<url><loc>${address}</loc></url>`).join('')}</urlset>`,
      );
  });
  router.get('/team', (request, response) => handleTeamLink(services, request, response));
  router.use(downloadRoutes(services), leadRoutes(services), checkoutRoutes(services, provider));

  router.get('/order/:token', (request, response) => {
    const order = orderByToken(services, request.params.token);
    response.set('cache-control', 'private, no-store');
    if (!order)
      return response
        .status(404)
        .type('html')
        .send(renderMessage(services, 'This address has ended', 'Order pages can be opened for 90 days. Write to us and we will send you your things again.'));
    const { settings, brand } = loadShop(db);
    const page = thankYouPage({ name: `order ${order.number}`, pictureIds: [] }, (kind) => newId(clock, kind));
    return response.type('html').send(
      renderPage(
        { ...page, title: `Your order ${order.number}` },
        {
          brand,
          shop: { name: settings.name, email: settings.contactEmail, currency: settings.currency },
          product: null,
          gift: null,
          pictures: {},
          assetBase: '',
          href: () => '/',
          form: null,
          checkout: null,
          ...orderView(services, order),
        },
        { address: config.siteUrl, scripts: [], pixelUrl: null, structuredData: null, shareImage: null },
      ),
    );
  });

  router.get('/', (_request, response) => {
    const { settings } = loadShop(db);
    response.type('html').send(renderMessage(services, settings.name, 'Follow the link that brought you here, or write to us.'));
  });
  function page(request: Request, response: Response, next: NextFunction) {
    const { funnelSlug = '', stepSlug } = request.params as Record<string, string | undefined>;
    const live = services.publicPages.at(funnelSlug, stepSlug);
    if (!live) return next();
    giveVisitorId(services, request, response);
    // The query is read only where there is one: it is parsed anew each time it is asked for.
    if (request.url.includes('code=') && typeof request.query.code === 'string') keepCode(response, request.query.code);
    // What has closed by its date leads elsewhere from every page that offers it; the date is looked at on each view.
    const closesAt = services.publicPages.closesAt(live.step.id);
    if (closesAt !== undefined && closesAt <= clock.now()) {
      const product = live.step.productId ? findProduct(db, live.step.productId) : undefined;
      const closed = product && closedBecause(services, product, null);
      if (product && closed) return tellClosed(response, live, product, closed);
    }
    if (isPersonal(live.page)) return personal(request, response, live);
    const kept = services.publicPages.keep(live.step.id, clock.now(), () => keepPage(renderStep(services, live)));
    const zipped = Boolean(request.acceptsEncodings('gzip'));
    const body = zipped ? kept.gzip : kept.html;
    const headers = { etag: kept.etag, 'cache-control': 'no-cache', vary: 'accept-encoding' };
    if (request.get('if-none-match') === kept.etag) return response.writeHead(304, headers).end();
    return response
      .writeHead(200, {
        ...headers,
        'content-type': 'text/html; charset=utf-8',
        'content-length': body.length,
        ...(zipped ? { 'content-encoding': 'gzip' } : {}),
      })
      .end(body);
  }

  /** A page that knows its visitor: the checkout with what is known filled in, the order just paid. */
  function personal(request: Request, response: Response, live: LiveStep) {
    const visitorId = giveVisitorId(services, request, response);
    const visitor = visitorOf(services, request);
    const order = orderByToken(services, request.query.order);
    const product = productOf(services, live);
    const checkout = product
      ? openCheckout(services, live, product, {
          visitor,
          visitorId,
          acceptLanguage: request.get('accept-language') ?? '',
          again: request.query.again === '1',
          preset: presetOf(request.query),
          keptCode: parseCookie(request)[CODE_COOKIE],
        })
      : null;
    // Who has just bought the last one is shown their order, not that it is sold out.
    const closed = product && !order && !checkout?.paidOrder ? closedBecause(services, product, null) : undefined;
    if (product && closed) return tellClosed(response, live, product, closed);
    if (checkout && typeof request.query.declined === 'string') checkout.message = declineMessage(request.query.declined);
    const html = renderStep(services, live, {
      ...(order ? orderView(services, order) : { buyer: null }),
      ...(checkout ? { checkout, buyer: { firstName: checkout.values.firstName ?? '' } } : {}),
    });
    // Kept nowhere, so that going back asks again and shows what has been paid meanwhile.
    return response.set('cache-control', 'private, no-store').type('html').send(html);
  }

  function tellClosed(response: Response, live: LiveStep, product: Product, closed: Closed) {
    const { url, message } = closedAnswer(services, live, product, closed);
    response.set('cache-control', 'private, no-store');
    if (url) return response.redirect(302, url);
    return response
      .status(410)
      .type('html')
      .send(renderMessage(services, closed.message, message === closed.message ? 'Write to us if you would like to know when it opens again.' : message));
  }

  /** A code that came with a link is kept for the checkout, however many pages lie between. */
  function keepCode(response: Response, typed: string): void {
    const found = findCode(db, typed.slice(0, 40));
    if (found) response.cookie(CODE_COOKIE, found.terms.code, { httpOnly: true, sameSite: 'lax', maxAge: CODE_KEPT_MS, path: '/' });
  }

  router.use((_request, response) => {
    response
      .status(404)
      .type('html')
      .send(renderMessage(services, 'This page is not here', 'The address may have been mistyped, or the page has moved.'));
  });
  return router;
}
