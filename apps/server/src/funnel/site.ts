import { Router } from 'express';
import { type LiveServices, stepAddress } from './live';

/** What search engines are told of the live funnels. */
export function funnelSite(services: LiveServices): Router {
  const { config, live } = services;
  const router = Router();
  router.get('/robots.txt', (_request, response) => {
    response
      .type('text/plain')
      .send(
        `User-agent: *\nDisallow: /pay/\nDisallow: /go/\nDisallow: /d/\nDisallow: /offer/\nDisallow: /order/\nDisallow: /cart/\nSitemap: ${config.siteUrl}/sitemap.xml\n`,
      );
  });
  router.get('/sitemap.xml', (_request, response) => {
    const addresses = live
      .all()
      .flatMap((publication) =>
        publication.snapshot.graph.steps
          .filter((step) => publication.snapshot.pages[step.id]?.indexed)
          .map((step) => stepAddress(services, { publication, step })),
      );
    response
      .type('application/xml')
      .send(
        `<?xml version="1.0" encoding="UTF-8"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${addresses.map((address) => `<url><loc>${address}</loc></url>`).join('')}</urlset>`,
      );
  });
  return router;
}
