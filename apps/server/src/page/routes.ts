import { splitArm } from '@ruta/core/experiments';
import { bumpPictureIds } from '@ruta/core/offers';
import {
  DraftSchema,
  filesOn,
  NewOwnSectionSchema,
  NewPageVersionSchema,
  OwnSectionSchema,
  PageVersionDetailSchema,
  PageVersionSchema,
  RevisionSchema,
  StepPageSchema,
  UploadedPictureSchema,
} from '@ruta/core/page';
import { z } from 'zod';
import { openStep, saveArmPage } from '../arms/armFunnel';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { findPictures, recentPictures } from '../files/store';
import { loadStep } from '../funnel/store';
import { currentUser } from '../team/access';
import { keepOwnSection, listOwnSections, removeOwnSection } from './ownSections';
import { savePage } from './save';
import { forgetVersion, keepVersion, loadVersion, versionsOf } from './versions';

/** So many pictures are offered to be used again. */
const MOST_PICTURES = 300;

/** Drafts of pages. */
export function pageRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on({ method: 'get', path: '/steps/:id/page', summary: 'A page’s draft', response: StepPageSchema }, ({ params }) => {
    const id = params.id ?? '';
    const step = splitArm(id).armId === null ? loadStep(db, id) : openStep(db, id);
    return {
      stepId: id,
      revision: step.revision,
      page: step.draft,
      pictures: findPictures(db, [...filesOn(step.draft), ...bumpPictureIds(step.sells)]),
    };
  });
  api.on({ method: 'get', path: '/own-sections', summary: 'Sections of one’s own', response: z.array(OwnSectionSchema) }, () => listOwnSections(db));
  api.on(
    { method: 'post', path: '/own-sections', summary: 'Keep a section to be used again', body: NewOwnSectionSchema, response: z.array(OwnSectionSchema) },
    ({ body }) => keepOwnSection(services, body),
  );
  api.on({ method: 'delete', path: '/own-sections/:id', summary: 'Forget an own section', response: z.array(OwnSectionSchema) }, ({ params }) =>
    removeOwnSection(services, params.id ?? ''),
  );
  api.on({ method: 'get', path: '/pictures', summary: 'Pictures that were uploaded, newest first', response: z.array(UploadedPictureSchema) }, () =>
    recentPictures(db, MOST_PICTURES),
  );
  api.on({ method: 'get', path: '/steps/:id/versions', summary: 'Versions of a page', response: z.array(PageVersionSchema) }, ({ params }) =>
    versionsOf(db, params.id ?? ''),
  );
  api.on(
    {
      method: 'post',
      path: '/steps/:id/versions',
      summary: 'Keep a version of a page under a name',
      body: NewPageVersionSchema,
      response: z.array(PageVersionSchema),
    },
    ({ params, body, request }) => keepVersion(services, params.id ?? '', body, currentUser(services, request)?.id ?? null),
  );
  api.on({ method: 'get', path: '/steps/:id/versions/:version', summary: 'A version of a page', response: PageVersionDetailSchema }, ({ params }) => {
    const version = loadVersion(db, params.id ?? '', params.version ?? '');
    return { ...version, pictures: findPictures(db, filesOn(version.page)) };
  });
  api.on({ method: 'delete', path: '/steps/:id/versions/:version', summary: 'Forget a named version', response: z.array(PageVersionSchema) }, ({ params }) =>
    forgetVersion(db, params.id ?? '', params.version ?? ''),
  );
  api.on({ method: 'put', path: '/steps/:id/page', summary: 'Save a page’s draft', body: DraftSchema, response: RevisionSchema }, ({ params, body }) => ({
    revision: (splitArm(params.id ?? '').armId === null ? savePage : saveArmPage)(services, params.id ?? '', body),
  }));
}
