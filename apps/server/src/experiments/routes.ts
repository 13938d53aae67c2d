import {
  CreatedExperimentSchema,
  EndExperimentSchema,
  ExperimentListQuerySchema,
  ExperimentPicturesSchema,
  ExperimentRowSchema,
  ExperimentSettingsSchema,
  ExperimentViewSchema,
  LearnedSchema,
  NewExperimentSchema,
} from '@ruta/core/experiments';
import { filesOn } from '@ruta/core/page';
import { z } from 'zod';
import { loadExperiment } from '../arms/store';
import type { Api } from '../base/api';
import { refuseOlder } from '../base/revision';
import { findPictures } from '../files/store';
import type { LiveServices } from '../funnel/live';
import { looking } from '../tracking/looking';
import type { Tracked } from '../tracking/recorder';
import type { Readiness } from './hindrances';
import { changeTest, endTest, keepLearned, planTest, removeTest, startTest } from './lifecycle';
import { liveAddress, type picturesOf, revisionOfTest } from './view';

/** Split tests: planned, begun, read and ended. */
export function experimentRoutes(api: Api, services: Tracked & LiveServices): void {
  const { db } = services;
  const look = looking(services);
  const view = (id = '') => look('test', { id, address: liveAddress(services, id) });
  api.on(
    {
      method: 'get',
      path: '/experiments',
      summary: 'Split tests, and what was learned by them',
      query: ExperimentListQuerySchema,
      response: z.array(ExperimentRowSchema),
      role: 'viewer',
    },
    ({ query }) => look('tests', query),
  );
  api.on({ method: 'post', path: '/experiments', summary: 'Plan a split test', body: NewExperimentSchema, response: CreatedExperimentSchema }, ({ body }) =>
    planTest(services, body),
  );
  api.on({ method: 'get', path: '/experiments/:id', summary: 'A split test with its figures', response: ExperimentViewSchema, role: 'viewer' }, ({ params }) =>
    view(params.id),
  );
  api.on(
    {
      method: 'get',
      path: '/experiments/:id/pictures',
      summary: 'The page of a split test as each arm has it',
      response: ExperimentPicturesSchema,
      role: 'viewer',
    },
    async ({ params }) => {
      const pictures = await look<ReturnType<typeof picturesOf>>('pictures', params.id ?? '');
      return { ...pictures, pictures: findPictures(db, [...new Set(pictures.arms.flatMap(({ page }) => filesOn(page)))]) };
    },
  );
  api.on(
    { method: 'put', path: '/experiments/:id', summary: 'Change a split test', body: ExperimentSettingsSchema, response: ExperimentViewSchema },
    ({ params, body, request }) => {
      refuseOlder(request, 'This test was', revisionOfTest(services, loadExperiment(db, params.id ?? '')));
      changeTest(services, params.id ?? '', body);
      return view(params.id);
    },
  );
  api.on({ method: 'delete', path: '/experiments/:id', summary: 'Forget a split test that was never begun', response: z.object({}) }, ({ params }) => {
    removeTest(services, params.id ?? '');
    return {};
  });
  api.on(
    { method: 'post', path: '/experiments/:id/start', summary: 'Start a split test, or a new round of it', response: ExperimentViewSchema },
    async ({ params }) => {
      const id = params.id ?? '';
      loadExperiment(db, id);
      startTest(services, id, await look<Readiness>('readiness', id));
      return view(params.id);
    },
  );
  api.on(
    { method: 'post', path: '/experiments/:id/end', summary: 'End a split test', body: EndExperimentSchema, response: ExperimentViewSchema },
    ({ params, body }) => {
      endTest(services, params.id ?? '', body);
      return view(params.id);
    },
  );
  api.on(
    { method: 'put', path: '/experiments/:id/learned', summary: 'Write down what was learned', body: LearnedSchema, response: ExperimentViewSchema },
    ({ params, body }) => {
      keepLearned(services, params.id ?? '', body.learned);
      return view(params.id);
    },
  );
}
