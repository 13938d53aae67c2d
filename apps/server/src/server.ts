import type { Server } from 'node:http';
import path from 'node:path';
import express, { type Express, Router } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { catalogRoutes } from './catalog/routes';
import { listProducts } from './catalog/store';
import { type Clock, systemClock } from './clock';
import { codeRoutes } from './codes/routes';
import { type Config, prepareDataDir } from './config';
import { openSecrets } from './connections/secrets';
import { connectQuayside } from './connections/service';
import { connectStudyporch } from './connections/studyporch';
import { openDb } from './db/open';
import { assetRoutes, uploadRoutes } from './files/routes';
import { funnelRoutes } from './funnel/routes';
import { Api } from './http/api';
import { problemHandler, sendProblem } from './http/problem';
import { startJobs } from './jobs';
import { quaysideProvider } from './payments/quayside';
import { salesRoutes } from './sales/routes';
import type { Services } from './services';
import { shopRoutes } from './shop/routes';
import { findShop } from './shop/store';
import { eventRoutes } from './site/eventRoutes';
import { PublicPages } from './site/publicPages';
import { siteRoutes } from './site/siteRoutes';
import { makeGuard, sessions } from './team/access';
import { teamRoutes } from './team/routes';
import { todayRoutes } from './today/routes';
import { Recorder } from './tracking/recorder';

export interface RunningServer {
  services: Services;
  stop: () => Promise<void>;
}

/** Opens the database and everything that works with it, without listening yet. */
export function openServices(config: Config, log: Logger, clock: Clock = systemClock): Services & { close: () => void } {
  prepareDataDir(config.dataDir);
  const { db, close } = openDb(path.join(config.dataDir, 'shop.sqlite'), config.assets.migrations);
  const recorder = new Recorder(db, log);
  return {
    config,
    db,
    clock,
    secrets: openSecrets(config.dataDir),
    log,
    recorder,
    publicPages: new PublicPages(db),
    close: () => {
      recorder.flush();
      close();
    },
  };
}

/** Starts the studio, the public site and the jobs. @throws Error if a port is taken */
export async function startServer(config: Config, log: Logger, clock: Clock = systemClock): Promise<RunningServer> {
  const services = openServices(config, log, clock);
  const provider = quaysideProvider(services);
  const servers: Server[] = [];
  try {
    servers.push(await listen(studioApp(services), config.port, 'RUTA_PORT'));
    servers.push(await listen(siteApp(services, provider), config.sitePort, 'RUTA_SITE_PORT'));
  } catch (error) {
    for (const server of servers) server.close();
    services.close();
    throw error;
  }
  if (findShop(services.db)) {
    await connectQuayside(services).catch((error: Error) => log.warn({ reason: error.message }, 'card processor not connected'));
    if (listProducts(services.db).some((product) => product.delivery.course)) {
      await connectStudyporch(services).catch((error: Error) => log.warn({ reason: error.message }, 'course host not connected'));
    }
  }
  const stopJobs = startJobs(services, provider);
  return {
    services,
    stop: async () => {
      await stopJobs();
      await Promise.all(
        servers.map((server) => {
          const closed = new Promise((resolve) => server.close(resolve));
          server.closeIdleConnections();
          // Whoever is being answered gets a moment to finish.
          setTimeout(() => server.closeAllConnections(), 1500).unref();
          return closed;
        }),
      );
      services.close();
    },
  };
}

/** The studio's origin: its API, and the built interface for every other address. */
export function studioApp(services: Services): Express {
  const { config } = services;
  const app = express().disable('x-powered-by');
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
  const router = Router();
  const guard = makeGuard(services);
  const api = new Api(router, guard);
  router.get('/health', (_request, response) => {
    response.json({ status: 'ok', shop: services.publicPages.shop() ? 'ready' : 'new' });
  });
  router.use(sessions(services));
  router.use('/uploads', uploadRoutes(services, guard));
  // A file with thousands of products is larger than anything else that is sent.
  router.use(['/products/import', '/codes/import'], express.json({ limit: '25mb' }));
  router.use(express.json({ limit: '2mb' }));
  teamRoutes(api, router, services);
  shopRoutes(api, services);
  catalogRoutes(api, services);
  codeRoutes(api, services);
  funnelRoutes(api, services);
  salesRoutes(api, services);
  todayRoutes(api, services);
  router.get('/openapi.json', (_request, response) => {
    response.json(api.openApi());
  });
  router.use((_request, response) => sendProblem(response, 404, 'There is no such operation.'));
  app.use('/api', router);
  app.use(assetRoutes(services));
  app.use(express.static(config.assets.studio, { index: false, maxAge: '1y', immutable: true }));
  app.get('/*path', (_request, response) => {
    response.set('cache-control', 'no-cache').sendFile(path.join(config.assets.studio, 'index.html'));
  });
  app.get('/', (_request, response) => {
    response.set('cache-control', 'no-cache').sendFile(path.join(config.assets.studio, 'index.html'));
  });
  app.use(problemHandler(services.log));
  return app;
}

/** The public site's origin: pages, checkout and files for visitors. */
export function siteApp(services: Services, provider: ReturnType<typeof quaysideProvider>): Express {
  const { config } = services;
  const app = express().disable('x-powered-by').disable('etag');
  app.use(eventRoutes(services));
  const frames = config.standinsUrl ? [config.standinsUrl] : [];
  const policy = [
    "default-src 'self'",
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data:",
    `frame-src ${["'self'", ...frames].join(' ')}`,
    `form-action ${["'self'", ...frames].join(' ')}`,
    "base-uri 'none'",
    "object-src 'none'",
    "frame-ancestors 'self'",
  ].join('; ');
  app.use((_request, response, next) => {
    response.set({ 'content-security-policy': policy, 'x-content-type-options': 'nosniff', 'referrer-policy': 'strict-origin-when-cross-origin' });
    next();
  });
  app.use(siteRoutes(services, provider));
  app.use(problemHandler(services.log));
  return app;
}

function listen(app: Express, port: number, setting: string): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = app.listen(port, '127.0.0.1', (error?: Error) => {
      if (!error) return resolve(server);
      const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
      return reject(taken ? new Error(`Port ${port} is taken. Stop what uses it, or set ${setting} to a free port.`) : error);
    });
  });
}
