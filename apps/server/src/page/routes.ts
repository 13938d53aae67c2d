import { bumpPictureIds } from '@ruta/core/offers';
import { DraftSchema, RevisionSchema, StepPageSchema } from '@ruta/core/page';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { findPictures } from '../files/store';
import { loadStep } from '../funnel/store';
import { pictureIds } from '../site/context';
import { savePage } from './save';

/** Drafts of pages. */
export function pageRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on({ method: 'get', path: '/steps/:id/page', summary: 'A page’s draft', response: StepPageSchema }, ({ params }) => {
    const step = loadStep(db, params.id ?? '');
    return {
      stepId: step.id,
      revision: step.revision,
      page: step.draft,
      pictures: findPictures(db, [...pictureIds(step.draft), ...bumpPictureIds(step.sells)]),
    };
  });
  api.on({ method: 'put', path: '/steps/:id/page', summary: 'Save a page’s draft', body: DraftSchema, response: RevisionSchema }, ({ params, body }) => ({
    revision: savePage(services, params.id ?? '', body),
  }));
}
