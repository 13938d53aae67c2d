import { DomainChangeSchema, DomainSchema, NewDomainSchema } from '@ruta/core/domains';
import { z } from 'zod';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { checkDomain } from './check';
import { addDomain, allDomains, changeDomain, domainView, removeDomain } from './store';

/** Domains of the seller's own. */
export function domainRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on({ method: 'get', path: '/domains', summary: 'Domains under which the shop is reached', response: z.array(DomainSchema) }, () =>
    allDomains(db).map((row) => domainView(services, row)),
  );
  api.on(
    { method: 'post', path: '/domains', summary: 'Add a domain, and look whether it leads here', body: NewDomainSchema, response: DomainSchema, role: 'owner' },
    async ({ body }) => domainView(services, await checkDomain(services, addDomain(services, body).id)),
  );
  api.on(
    { method: 'put', path: '/domains/:id', summary: 'Let a domain open on something else', body: DomainChangeSchema, response: DomainSchema, role: 'owner' },
    ({ params, body }) => domainView(services, changeDomain(services, params.id ?? '', body.funnelId)),
  );
  api.on({ method: 'post', path: '/domains/:id/check', summary: 'Look now whether a domain leads here', response: DomainSchema }, async ({ params }) =>
    domainView(services, await checkDomain(services, params.id ?? '')),
  );
  api.on(
    { method: 'delete', path: '/domains/:id', summary: 'Take a domain away', response: z.object({ removed: z.boolean() }), role: 'owner' },
    ({ params }) => {
      removeDomain(services, params.id ?? '');
      return { removed: true };
    },
  );
}
