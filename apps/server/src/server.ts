import http, { type IncomingMessage, type Server } from 'node:http';
import path from 'node:path';
import express, { type Express, Router } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { tallyRounds } from './arms/tally';
import { backUpByClock } from './backups/job';
import { backupRoutes } from './backups/routes';
import { Api } from './base/api';
import { type Clock, systemClock } from './base/clock';
import type { Config } from './base/config';
import { startJobs } from './base/jobs';
import { keepStatistics } from './base/keepStatistics';
import { listen } from './base/listen';
import { sendDue } from './base/outbox/outbox';
import { isTireless, type Senders, sendRow } from './base/outbox/registry';
import { problemHandler, sendProblem } from './base/problem';
import { taskRoutes } from './base/taskRoutes';
import { bundleRoutes } from './bundles/routes';
import { catalogRoutes } from './catalog/routes';
import { sellingCourses } from './catalog/store';
import { checkoutDoor } from './checkout/door';
import { offerSite } from './checkout/offerSite';
import { cartRoutes } from './checkout/routes';
import { checkoutSite } from './checkout/site';
import { funnelRoutes } from './checks/routes';
import { codeRoutes } from './codes/routes';
import { appointmentRoutes } from './contacts/appointments';
import { consentRoutes } from './contacts/consents';
import { contactRoutes } from './contacts/routes';
import { conversionRoutes } from './conversions/routes';
import { sendConversion } from './conversions/send';
import { writeReceipt } from './delivery/receipt';
import { deliveryRoutes } from './delivery/routes';
import { deliverySite } from './delivery/site';
import { connectStudyporch, enrol } from './delivery/studyporch';
import { whoAsks } from './delivery/whoAsks';
import { checkDomains } from './domains/check';
import { domainRoutes } from './domains/routes';
import { experimentRoutes } from './experiments/routes';
import { watchTests } from './experiments/watch';
import { factRoutes } from './facts/routes';
import { assetRoutes, uploadRoutes } from './files/routes';
import { forecastRoutes } from './forecast/routes';
import { pathAsAsked } from './funnel/rootPath';
import { funnelSite } from './funnel/site';
import { goLiveRoutes } from './goLive/routes';
import { leadRoutes } from './leads/routes';
import { leadSite } from './leads/site';
import { makeMailer } from './mail/mailer';
import { dropOldMessages } from './messages/dropOld';
import { messageRoutes } from './messages/routes';
import { type AllServices, openServices } from './openServices';
import { orderRoutes } from './orders/routes';
import { appointmentSite } from './page/appointmentSite';
import { ownAppointmentSite } from './page/ownAppointment';
import { pageDoor, pageRoutesOfSite } from './page/pages';
import { pageRoutes } from './page/routes';
import { pageSite } from './page/site';
import { partnerRoutes } from './partners/routes';
import { partnerSite } from './partners/site';
import { connectProvider } from './payments/accounts';
import { hearOfRefunds } from './payments/hearOfRefunds';
import { reconcile } from './payments/reconcile';
import { sendRefund } from './payments/refund';
import { paymentRoutes } from './payments/routes';
import { giveBack } from './payments/settle';
import { paymentSite } from './payments/site';
import { planRoutes } from './plans/routes';
import { reportRoutes } from './reports/routes';
import { shopRoutes } from './shop/routes';
import { shopSite } from './shop/site';
import { findShop, loadShop } from './shop/store';
import { legalSite } from './site/legal';
import { sitePolicy } from './site/policy';
import { renderMessage } from './site/renderMessage';
import { askAgain } from './taxNumbers/proofs';
import { makeGuard, sessions } from './team/access';
import { teamRoutes } from './team/routes';
import { teamSite } from './team/site';
import { todayRoutes } from './today/routes';
import { consentSite } from './tracking/consent';
import { outsideSite } from './tracking/outside';
import { needsRebuild, rebuildRollUps } from './tracking/rebuild';
import { viewDoor } from './tracking/site';
import { knowBrowser } from './tracking/visitor';
import { webhookRoutes } from './webhooks/routes';
import { sendWebhook } from './webhooks/send';

export interface RunningServer {
  services: AllServices;
  stop: () => Promise<void>;
}

/** Starts the studio, the public site and the jobs. @throws Error if a port is taken */
export async function startServer(config: Config, log: Logger, clock: Clock = systemClock): Promise<RunningServer> {
  const services = openServices(config, log, clock);
  const servers: Server[] = [];
  try {
    // Tests of an earlier release are counted once, before anybody looks at them.
    await tallyRounds(services, 'uncounted');
    servers.push(await listen(http.createServer(studioApp(services)), config.port, 'RUTA_PORT'));
    servers.push(await listen(siteServer(services), config.sitePort, 'RUTA_SITE_PORT'));
  } catch (error) {
    for (const server of servers) server.close();
    services.close();
    throw error;
  }
  if (findShop(services.db)) {
    await connectProvider(services, 'quayside').catch((error: Error) => log.warn({ reason: error.message }, 'card processor not connected'));
    if (sellingCourses(services.db)) {
      await connectStudyporch(services).catch((error: Error) => log.warn({ reason: error.message }, 'course host not connected'));
    }
  }
  const mailer = makeMailer(config);
  const senders: Senders = {
    mail: (mail, rowId) => mailer.send(mail, rowId),
    receipt: (receipt, rowId) => mailer.send(writeReceipt(services, receipt), rowId),
    'void-charge': ({ chargeId }) => giveBack(services, chargeId),
    refund: ({ refundId }) => sendRefund(services, refundId),
    course: (enrolment) => enrol(services, enrolment),
    webhook: ({ messageId }) => sendWebhook(services, messageId),
    conversion: ({ messageId }) => sendConversion(services, messageId),
  };
  const keepRebuilt = () => {
    if (findShop(services.db) && needsRebuild(services))
      rebuildRollUps(services).catch((error: Error) => log.error({ err: error }, 'figures could not be made anew'));
  };
  services.changes.onChange(keepRebuilt);
  keepRebuilt();
  const stopJobs = startJobs(services, [
    { name: 'reconcile', run: () => reconcile(services), wakes: ['outbox', 'money'] },
    { name: 'outbox', run: () => sendDue(services, (row) => sendRow(senders, row), { only: ['mail', 'receipt'] }) },
    // A processor or a course host that is slow holds up no mail.
    { name: 'refunds', run: () => hearOfRefunds(services) },
    { name: 'money', run: () => sendDue(services, (row) => sendRow(senders, row), { only: ['void-charge', 'refund'] }, isTireless) },
    { name: 'courses', run: () => sendDue(services, (row) => sendRow(senders, row), { only: ['course'] }) },
    { name: 'webhooks', run: () => sendDue(services, (row) => sendRow(senders, row), { only: ['webhook'] }) },
    { name: 'tax-numbers', run: () => askAgain(services) },
    { name: 'limits', run: () => services.limits.flush() },
    { name: 'statistics', run: keepStatistics(services) },
    { name: 'old-messages', run: dropOldMessages(services) },
    { name: 'backups', run: () => backUpByClock(services), isLeft: true },
    { name: 'experiments', run: () => watchTests(services) },
    { name: 'domains', run: () => checkDomains(services) },
    { name: 'conversions', run: () => sendDue(services, (row) => sendRow(senders, row), { only: ['conversion'] }) },
  ]);
  return {
    services,
    stop: async () => {
      await stopJobs();
      mailer.close();
      await Promise.all(
        servers.map((server) => {
          const closed = new Promise((resolve) => server.close(resolve));
          server.closeIdleConnections();
          // Whoever is being answered gets a moment to finish.
          setTimeout(() => server.closeAllConnections(), 1500).unref();
          return closed;
        }),
      );
      // Whoever has tried too often has so after the next start, too; a full disk does not keep the server from ending.
      await services.limits.flush().catch((error: Error) => log.warn({ reason: error.message }, 'limits not written down'));
      services.close();
    },
  };
}

/** What is said where something could not be written down: never that nothing has happened. */
const unsaved = (why: string) => `This could not be saved: ${why}. What you typed is still here; try again in a minute.`;
const unpaid = () =>
  'We could not write this down just now. If money was taken, you will hear from us within minutes, and nothing is charged twice. Please try again in a minute.';

/** The studio's origin: its API, and the built interface for every other address. */
export function studioApp(services: AllServices): Express {
  const { config } = services;
  // One address, one spelling: what guards an address must see the same as what answers there.
  const app = express().disable('x-powered-by').set('trust proxy', config.trusts).set('case sensitive routing', true);
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // The page being edited is styled by rules made from the seller's brand while they type.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          connectSrc: ["'self'", config.siteUrl],
          frameSrc: ["'self'"],
          frameAncestors: ["'none'"],
          objectSrc: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      crossOriginOpenerPolicy: false,
      strictTransportSecurity: config.studioUrl.startsWith('https:'),
    }),
  );
  const router = Router({ caseSensitive: true });
  const guard = makeGuard(services);
  const api = new Api(router, guard, services.writes);
  // Nothing of a shop is left behind in a browser that somebody else sits down at.
  router.use((_request, response, next) => {
    response.set('cache-control', 'no-store');
    next();
  });
  router.get('/health', (_request, response) => {
    const trouble = services.writes.standing();
    const shop = findShop(services.db) ? 'ready' : 'new';
    if (trouble) response.status(503).json({ status: 'failing', shop, problem: `Nothing can be written down: ${trouble.why}.`, since: trouble.since });
    else response.json({ status: 'ok', shop });
  });
  router.use(sessions(services));
  router.use('/uploads', uploadRoutes(services, api, guard));
  // A file with thousands of products is larger than anything else that is sent, so that only people of the shop may send one.
  router.use(['/products/import', '/products/:id/keys', '/codes/import', '/spend/import', '/funnels/import', '/pages/import'], (request, _response, next) => {
    guard(request);
    next();
  });
  router.use(['/products/import', '/products/:id/keys', '/codes/import', '/spend/import'], express.json({ limit: '25mb' }));
  // Read in a thread of its own: a file made to hurt takes seconds to be parsed.
  router.use(['/funnels/import', '/pages/import'], express.raw({ type: 'application/json', limit: '80mb' }));
  router.use(express.json({ limit: '2mb' }));
  teamRoutes(api, router, services, async () => {
    // Connecting can be done later under Connections; a shop without a processor is still a shop.
    await connectProvider(services, 'quayside').catch((error: Error) => services.log.warn({ reason: error.message }, 'card processor not connected at set-up'));
  });
  backupRoutes(api, services);
  taskRoutes(api, services);
  shopRoutes(api, services);
  goLiveRoutes(api, services);
  catalogRoutes(api, services);
  codeRoutes(api, services);
  cartRoutes(api, services);
  reportRoutes(api, services);
  forecastRoutes(api, services);
  experimentRoutes(api, services);
  factRoutes(api, services);
  funnelRoutes(api, services);
  pageRoutes(api, services);
  orderRoutes(api, services);
  deliveryRoutes(api, services);
  planRoutes(api, services);
  bundleRoutes(api, services);
  contactRoutes(api, services);
  consentRoutes(api, services);
  domainRoutes(api, services);
  appointmentRoutes(api, services);
  leadRoutes(api, services);
  webhookRoutes(api, services);
  messageRoutes(api, services);
  conversionRoutes(api, services);
  paymentRoutes(api, services);
  partnerRoutes(api, services);
  todayRoutes(api, services);
  router.get('/openapi.json', async (_request, response) => {
    response.type('application/json').send(await api.openApi());
  });
  router.use((_request, response) => sendProblem(response, 404, 'There is no such operation.'));
  app.use('/api', router);
  app.use(assetRoutes(services));
  app.use(express.static(config.assets.studio, { index: false, maxAge: '1y', immutable: true }));
  app.get(['/', '/*path'], (_request, response) => {
    response.set('cache-control', 'no-cache').sendFile(path.join(config.assets.studio, 'index.html'));
  });
  app.use(problemHandler(services, unsaved));
  return app;
}

/** The public site's origin: what is asked for most is answered at the door, everything else by the framework. */
export function siteServer(services: AllServices): Server {
  const asked = (request: IncomingMessage, path: string) => pathAsAsked(services, request, path);
  const doors = [viewDoor(services, (request, query) => whoAsks(services, request, query), asked), pageDoor(services), checkoutDoor(services, unpaid)];
  const app = siteApp(services);
  return http.createServer((request, response) => {
    try {
      atRoot(request, asked);
      knowBrowser(services, request);
      if (doors.some((door) => door(request, response))) return;
    } catch (error) {
      services.log.error({ err: error, path: request.url }, 'request failed at the door');
      services.writes.note(error);
      if (!response.headersSent) response.writeHead(500, { 'content-type': 'text/plain' });
      response.end('Something went wrong on our side. Try again in a minute.');
      return;
    }
    app(request, response);
  });
}

/** At the root of a domain of the seller's stands what it opens on. */
function atRoot(request: IncomingMessage, asked: (request: IncomingMessage, path: string) => string): void {
  const { url = '' } = request;
  if (url !== '/' && !url.startsWith('/?')) return;
  Object.assign(request, { originalUrl: url });
  request.url = asked(request, '/') + url.slice(1);
}

/** Pages, checkout and files for visitors. */
function siteApp(services: AllServices): Express {
  const { config, db } = services;
  const app = express().disable('x-powered-by').disable('etag').set('trust proxy', config.trusts);
  app.use((request, response, next) => {
    // What stands between the pages of a checkout may be framed as these are.
    const framed = /^\/(pay|offer|go|cart)\//.test(request.path);
    response.set({
      'content-security-policy': sitePolicy(config, { framed }),
      'x-content-type-options': 'nosniff',
      'referrer-policy': 'strict-origin-when-cross-origin',
    });
    next();
  });
  // Whoever sends something may write; nobody else waits for them while another program holds the database.
  app.use(async (request, _response, next) => {
    if (request.method === 'POST') await services.writes.free();
    next();
  });
  app.use(shopSite(services), assetRoutes(services));
  const yearMs = 365 * 24 * 60 * 60 * 1000;
  app.use('/assets/scripts', express.static(config.assets.scripts, { maxAge: yearMs, immutable: true, index: false }));
  app.use((_request, response, next) => {
    if (findShop(db)) return next();
    return response.status(503).type('text/plain').send(`This shop is not set up yet. Open ${config.studioUrl} to begin.`);
  });
  app.use(
    // What is asked most in a rush is asked first.
    checkoutSite(services),
    funnelSite(services),
    teamSite(services),
    deliverySite(services),
    consentSite(services),
    outsideSite(services),
    pageSite(services),
    appointmentSite(services),
    ownAppointmentSite(services),
    leadSite(services),
    partnerSite(services),
    legalSite(services),
    paymentSite(services),
    offerSite(services),
  );
  app.get('/', (_request, response) => {
    response.type('html').send(renderMessage(services, loadShop(db).settings.name, 'Follow the link that brought you here, or write to us.'));
  });
  app.use(pageRoutesOfSite(services));
  app.use((_request, response) => {
    response
      .status(404)
      .type('html')
      .send(renderMessage(services, 'This page is not here', 'The address may have been mistyped, or the page has moved.'));
  });
  app.use(problemHandler(services, unpaid, (title) => renderMessage(services, 'This did not work', title)));
  return app;
}
