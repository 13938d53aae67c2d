import { FunnelListQuerySchema, FunnelPageSchema, stopsInOrder } from '@ruta/core/funnel';
import { CountSchema } from '@ruta/core/lists';
import { BehindQuerySchema, BehindSchema, DaysSchema, FunnelFiguresSchema, RebuildSchema, ReportQuerySchema, ReportSchema } from '@ruta/core/reports';
import { SpendImportSchema, type SpendReport, SpendReportSchema } from '@ruta/core/spend';
import type { Api } from '../base/api';
import { sendFile } from '../base/sendFile';
import { loadFunnel } from '../funnel/store';
import { looking } from '../tracking/looking';
import { rebuildProgress, rebuildRollUps } from '../tracking/rebuild';
import type { Tracked } from '../tracking/recorder';
import { rollUpState } from '../tracking/tables';
import { countFunnels } from './funnelList';

/** Funnels with their figures. */
export function reportRoutes(api: Api, services: Tracked): void {
  const { db } = services;
  const look = looking(services);
  api.on(
    {
      method: 'get',
      path: '/funnels',
      summary: 'Funnels with their figures of the last 30 days',
      query: FunnelListQuerySchema,
      response: FunnelPageSchema,
    },
    ({ query }) => look('funnels', query),
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
      return look('figures', { funnelId: funnel.id, stepIds: stopsInOrder(graph).map((step) => step.id), days: query.days });
    },
  );
  api.on(
    { method: 'get', path: '/reports', summary: 'What a period had, by whatever is asked', query: ReportQuerySchema, response: ReportSchema },
    ({ query }) => look('report', query),
  );
  api.on({ method: 'get', path: '/reports/export', summary: 'The same as CSV', query: ReportQuerySchema }, async ({ query, response }) => {
    sendFile(response, `${query.by}-${query.from}-${query.to}.csv`, await look<string>('reportCsv', query));
  });
  api.on(
    { method: 'get', path: '/reports/behind', summary: 'The orders that a row of a report is made of', query: BehindQuerySchema, response: BehindSchema },
    ({ query }) => look('behind', query),
  );
  api.on(
    {
      method: 'post',
      path: '/spend/import',
      summary: 'Look at a file of ad spend, or bring it in',
      body: SpendImportSchema,
      response: SpendReportSchema,
    },
    ({ body: { task, ...body } }) => services.tasks.run<SpendReport>('importSpend', body, task),
  );
  const rebuild = () => ({ ...rebuildProgress(db), rebuiltAt: db.select({ at: rollUpState.rebuiltAt }).from(rollUpState).get()?.at ?? null });
  api.on({ method: 'get', path: '/reports/rebuild', summary: 'How far making the figures anew is', response: RebuildSchema }, rebuild);
  api.on({ method: 'post', path: '/reports/rebuild', summary: 'Make the figures anew from the log', response: RebuildSchema, role: 'owner' }, () => {
    rebuildRollUps(services).catch((error: Error) => services.log.error({ err: error }, 'figures could not be made anew'));
    return rebuild();
  });
}
