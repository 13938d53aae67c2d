import { LeadSourceSchema, MadeLeadSourceSchema, NewLeadSourceSchema } from '@ruta/core/leads';
import { z } from 'zod';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { addSource, listSources, removeSource } from './sources';

/** Places outside that send leads. */
export function leadRoutes(api: Api, services: Services): void {
  const { db, config } = services;
  api.on({ method: 'get', path: '/lead-sources', summary: 'Places that send leads', response: z.array(LeadSourceSchema) }, () => listSources(db));
  api.on(
    {
      method: 'post',
      path: '/lead-sources',
      summary: 'A new place that sends leads',
      body: NewLeadSourceSchema,
      response: MadeLeadSourceSchema,
      role: 'owner',
    },
    ({ body }) => {
      const { source, key } = addSource(services, body);
      return { ...source, address: `${config.siteUrl}/leads/${key}` };
    },
  );
  api.on(
    { method: 'delete', path: '/lead-sources/:id', summary: 'Take no more leads from a place', response: z.array(LeadSourceSchema), role: 'owner' },
    ({ params }) => {
      removeSource(db, params.id ?? '');
      return listSources(db);
    },
  );
}
