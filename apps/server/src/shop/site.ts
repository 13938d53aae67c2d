import { Router } from 'express';
import type { Services } from '../base/services';
import { findShop } from './store';

/** The icon of the public site: the shop's first letter in its colours. */
export function shopSite({ db }: Pick<Services, 'db'>): Router {
  const router = Router();
  router.get('/favicon.svg', (_request, response) => {
    const shop = findShop(db);
    const letter = (shop?.settings.name ?? 'R').trim().charAt(0).toUpperCase().replace(/[<&]/g, '');
    response
      .set('cache-control', 'public, max-age=3600')
      .type('image/svg+xml')
      .send(
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32"><rect width="32" height="32" rx="6" fill="${shop?.brand.main ?? '#1F3A34'}"/><text x="16" y="23" font-family="Georgia,serif" font-size="20" text-anchor="middle" fill="${shop?.brand.ground ?? '#FFFFFF'}">${letter}</text></svg>`,
      );
  });
  return router;
}
