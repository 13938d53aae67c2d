import { bumpPictureIds } from '@ruta/core/offers';
import { DraftSchema, filesOn, RevisionSchema, StepPageSchema, UploadedPictureSchema } from '@ruta/core/page';
import { z } from 'zod';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { findPictures, recentPictures } from '../files/store';
import { loadStep } from '../funnel/store';
import { savePage } from './save';

/** So many pictures are offered to be used again. */
const MOST_PICTURES = 300;

/** Drafts of pages. */
export function pageRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on({ method: 'get', path: '/steps/:id/page', summary: 'A page’s draft', response: StepPageSchema }, ({ params }) => {
    const step = loadStep(db, params.id ?? '');
    return {
      stepId: step.id,
      revision: step.revision,
      page: step.draft,
      pictures: findPictures(db, [...filesOn(step.draft), ...bumpPictureIds(step.sells)]),
    };
  });
  api.on({ method: 'get', path: '/pictures', summary: 'Pictures that were uploaded, newest first', response: z.array(UploadedPictureSchema) }, () =>
    recentPictures(db, MOST_PICTURES),
  );
  api.on({ method: 'put', path: '/steps/:id/page', summary: 'Save a page’s draft', body: DraftSchema, response: RevisionSchema }, ({ params, body }) => ({
    revision: savePage(services, params.id ?? '', body),
  }));
}
