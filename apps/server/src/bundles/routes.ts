import { BundleQuerySchema, ImportedFunnelSchema, ImportedPageSchema, SentBundleSchema } from '@ruta/core/bundles';
import { slugify } from '@ruta/core/funnel';
import type { Api } from '../base/api';
import { sendFile } from '../base/sendFile';
import { loadFunnel, loadStep } from '../funnel/store';
import type { Tracked } from '../tracking/recorder';
import { readFunnelBundle, readPageBundle } from './read';
import { staticPage } from './staticPage';
import { funnelBundle, pageBundle } from './write';

/** Pages and funnels out and in as open files. */
export function bundleRoutes(api: Api, services: Tracked): void {
  const { db } = services;
  const fileName = (name: string, ending: string) => `${slugify(name) || 'page'}.${ending}`;
  api.on({ method: 'get', path: '/steps/:id/export/json', summary: 'A page with its pictures as one file' }, ({ params, response }) => {
    sendFile(response, fileName(loadStep(db, params.id ?? '').name, 'json'), JSON.stringify(pageBundle(services, params.id ?? '')));
  });
  api.on({ method: 'get', path: '/steps/:id/export/zip', summary: 'A page as static HTML' }, ({ params, response }) => {
    const name = fileName(loadStep(db, params.id ?? '').name, 'zip');
    response
      .set({ 'content-type': 'application/zip', 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' })
      .send(Buffer.from(staticPage(services, params.id ?? '')));
  });
  api.on({ method: 'get', path: '/funnels/:id/export/json', summary: 'A funnel with its pages and pictures as one file' }, ({ params, response }) => {
    sendFile(response, fileName(loadFunnel(db, params.id ?? '').funnel.name, 'json'), JSON.stringify(funnelBundle(services, params.id ?? '')));
  });
  api.on(
    {
      method: 'post',
      path: '/funnels/import',
      summary: 'Take in a funnel as a draft',
      query: BundleQuerySchema,
      body: SentBundleSchema,
      response: ImportedFunnelSchema,
    },
    ({ body, query }) => readFunnelBundle(services, body, query.task),
  );
  api.on(
    {
      method: 'post',
      path: '/pages/import',
      summary: 'Take in a page, to be put in place of another',
      query: BundleQuerySchema,
      body: SentBundleSchema,
      response: ImportedPageSchema,
    },
    ({ body, query }) => readPageBundle(services, body, query.task),
  );
}
