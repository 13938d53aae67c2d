import { ImportedFunnelSchema, ImportedPageSchema, SentBundleSchema } from '@ruta/core/bundles';
import { slugify } from '@ruta/core/funnel';
import type { Api } from '../base/api';
import { sendFile } from '../base/sendFile';
import type { Services } from '../base/services';
import { loadFunnel, loadStep } from '../funnel/store';
import { readFunnelBundle, readPageBundle } from './read';
import { staticPage } from './staticPage';
import { funnelBundle, pageBundle } from './write';

/** Pages and funnels out and in as open files. */
export function bundleRoutes(api: Api, services: Services): void {
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
    { method: 'post', path: '/funnels/import', summary: 'Take in a funnel as a draft', body: SentBundleSchema, response: ImportedFunnelSchema },
    ({ body }) => readFunnelBundle(services, body),
  );
  api.on(
    { method: 'post', path: '/pages/import', summary: 'Take in a page, to be put in place of another', body: SentBundleSchema, response: ImportedPageSchema },
    ({ body }) => readPageBundle(services, body),
  );
}
