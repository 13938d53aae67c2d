import { FunnelListQuerySchema, FunnelPageSchema, stopsInOrder } from '@ruta/core/funnel';
import { CountSchema } from '@ruta/core/lists';
import { DaysSchema, FunnelFiguresSchema } from '@ruta/core/reports';
import type { Api } from '../base/api';
import { loadFunnel } from '../funnel/store';
import type { Tracked } from '../tracking/recorder';
import { figuresSince } from './funnelFigures';
import { countFunnels, listFunnelRows } from './funnelList';

/** Funnels with their figures. */
export function reportRoutes(api: Api, services: Tracked): void {
  const { db } = services;
  api.on(
    {
      method: 'get',
      path: '/funnels',
      summary: 'Funnels with their figures of the last 30 days',
      query: FunnelListQuerySchema,
      response: FunnelPageSchema,
    },
    ({ query }) => listFunnelRows(services, query),
  );
  api.on(
    { method: 'get', path: '/funnels/count', summary: 'How many funnels a list has', query: FunnelListQuerySchema, response: CountSchema },
    ({ query }) => ({
      count: countFunnels(db, query),
    }),
  );
  api.on(
    { method: 'get', path: '/funnels/:id/figures', summary: 'Figures per stop', query: DaysSchema, response: FunnelFiguresSchema },
    ({ params, query }) => {
      const { funnel, graph } = loadFunnel(db, params.id ?? '');
      services.recorder.flush();
      return figuresSince(
        services,
        funnel,
        stopsInOrder(graph).map((step) => step.id),
        query.days,
      );
    },
  );
}
