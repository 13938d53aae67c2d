import { Router } from 'express';
import type { Services } from '../base/services';
import { handleTeamLink } from './mark';

/** Where the studio marks its people's browsers on the public site. */
export function teamSite(services: Services): Router {
  const router = Router();
  router.get('/team', (request, response) => handleTeamLink(services, request, response));
  return router;
}
