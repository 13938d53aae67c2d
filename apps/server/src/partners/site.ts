import { Router } from 'express';
import { type LiveServices, stepPath } from '../funnel/live';
import { partnerByCode, withPartner } from './store';

/** Short links of partners: to the page that was chosen for them, else to the shop's first. */
export function partnerSite(services: LiveServices): Router {
  const router = Router();
  router.get('/with/:code', (request, response, next) => {
    const found = partnerByCode(services.db, String(request.params.code));
    if (!found) return next();
    const all = services.live.all();
    const publication = all.find(({ funnelId }) => funnelId === found.document.landingFunnelId) ?? all[0];
    const entry = publication?.snapshot.graph.steps.find(({ id }) => id === publication.snapshot.graph.entryId);
    response.set('cache-control', 'no-store');
    return response.redirect(302, withPartner(publication && entry ? stepPath({ publication, step: entry }) : '/', found.document.code));
  });
  return router;
}
