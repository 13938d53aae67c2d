import { LiveUseSchema, ProductIdsSchema } from '@ruta/core/catalog';
import { type FunnelDetail, FunnelDetailSchema, FunnelStateSchema, StopDifferencesSchema } from '@ruta/core/checks';
import { splitArm } from '@ruta/core/experiments';
import {
  ArchiveSchema,
  FunnelLookSchema,
  FunnelSettingsSchema,
  GraphSchema,
  MapChangeSchema,
  NamedSchema,
  StepSettingsSchema,
  stopsInOrder,
} from '@ruta/core/funnel';
import { differences } from '@ruta/core/page';
import { FunnelCopySchema, NewFunnelSchema } from '@ruta/core/templates';
import { desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { changeArmMap, openFunnel } from '../arms/armFunnel';
import { openArm, testsOf } from '../arms/openArm';
import { endTestsOf } from '../arms/rounds';
import type { Api } from '../base/api';
import { refuseOlder, revisionOf } from '../base/revision';
import { findProduct, loadProduct } from '../catalog/store';
import { changeMap } from '../funnel/changeMap';
import { type LiveServices, stepAddress } from '../funnel/live';
import { archiveFunnel, changeFunnel, changeLook, changeStep, unpublishedChanges } from '../funnel/service';
import { sharedBy, sharingOf } from '../funnel/sharedOffers';
import { type FunnelRow, funnelsWith, loadFunnel, loadStep } from '../funnel/store';
import { publications } from '../funnel/tables';
import { currentUser } from '../team/access';
import { copyOfFunnel, createFunnel } from '../templates/createFunnel';
import { problemsOf, productsOf, publish } from './funnelChecks';
import { liveUse } from './liveUse';

const SHOWN_PUBLICATIONS = 20;
const NO_CHANGES = { stepIds: [], settings: false };

/** What its dialogs change of a funnel, each as one state that another window can have changed meanwhile. */
const settingsOf = ({ name, slug }: FunnelRow) => ({ name, slug });
const lookOf = ({ brand, code }: FunnelRow) => ({ brand, code });

/** One funnel: what it is, what is wrong with it, and putting it live. */
export function funnelRoutes(api: Api, services: LiveServices): void {
  const { db } = services;

  const detail = (id: string): FunnelDetail => {
    const state = openFunnel(db, id);
    const { funnel, graph, published } = state;
    const products = productsOf(services, state);
    const publication = { funnelId: funnel.id, snapshot: { slug: funnel.slug, graph } };
    return {
      id,
      name: funnel.name,
      slug: funnel.slug,
      giftId: funnel.giftId,
      brand: funnel.brand,
      code: funnel.code,
      revision: funnel.revision,
      revisions: { settings: revisionOf(settingsOf(funnel)), look: revisionOf(lookOf(funnel)) },
      graph,
      stops: stopsInOrder(graph).map((step) => step.id),
      publishedAt: published?.at ?? null,
      archivedAt: funnel.archivedAt,
      version: published?.version ?? 0,
      // An arm goes live with its test, not by publishing.
      changes: state.arm ? NO_CHANGES : unpublishedChanges(state),
      problems: problemsOf(services, state, products),
      arm: openArm(services, state, products),
      tests: testsOf(db, funnel.id),
      addresses: Object.fromEntries(graph.steps.map((step) => [step.id, stepAddress(services, { publication, step })])),
      products,
      sharing: sharingOf(db, state),
      publications: db
        .select({ version: publications.version, at: publications.at })
        .from(publications)
        .where(eq(publications.funnelId, funnel.id))
        .orderBy(desc(publications.version))
        .limit(SHOWN_PUBLICATIONS)
        .all(),
    };
  };

  api.on(
    { method: 'get', path: '/products/:id/funnels', summary: 'Funnels in which a product is sold or given', response: z.array(NamedSchema) },
    ({ params }) => funnelsWith(db, params.id ?? ''),
  );
  api.on(
    {
      method: 'post',
      path: '/products/live-use',
      summary: 'Live funnels that sell or give some products',
      body: ProductIdsSchema,
      response: z.array(LiveUseSchema),
      role: 'viewer',
    },
    ({ body }) => liveUse(services, body.ids),
  );
  api.on({ method: 'post', path: '/funnels', summary: 'Start a funnel from a template', body: NewFunnelSchema, response: FunnelDetailSchema }, ({ body }) =>
    detail(createFunnel(services, body)),
  );
  api.on(
    { method: 'post', path: '/funnels/:id/copy', summary: 'Start a funnel from another of one’s own', body: FunnelCopySchema, response: FunnelDetailSchema },
    ({ params, body }) => detail(copyOfFunnel(services, params.id ?? '', body)),
  );
  api.on({ method: 'get', path: '/funnels/:id', summary: 'One funnel', response: FunnelDetailSchema }, ({ params }) => detail(params.id ?? ''));
  api.on(
    { method: 'get', path: '/funnels/:id/offers', summary: 'The offers that other funnels can share, as they are live', response: GraphSchema },
    ({ params }) => sharedBy(loadFunnel(db, params.id ?? '')).graph,
  );
  api.on(
    { method: 'get', path: '/funnels/:id/state', summary: 'What is wrong with a funnel, and not published yet', response: FunnelStateSchema },
    ({ params }) => {
      const state = openFunnel(db, params.id ?? '');
      const products = productsOf(services, state);
      return {
        changes: state.arm ? NO_CHANGES : unpublishedChanges(state),
        problems: problemsOf(services, state, products),
        arm: openArm(services, state, products),
      };
    },
  );
  api.on(
    { method: 'put', path: '/funnels/:id/archive', summary: 'Put a funnel away, or bring it back', body: ArchiveSchema, response: ArchiveSchema },
    ({ params, body }) => {
      const id = params.id ?? '';
      db.transaction((tx) => {
        archiveFunnel(services, id, body.archived);
        if (body.archived) endTestsOf(services, tx, id, 'The funnel was put away, so that nobody comes to it any more. The original stays.');
      });
      services.changes.announce();
      return body;
    },
  );
  api.on(
    { method: 'put', path: '/funnels/:id', summary: 'Rename or move a funnel', body: FunnelSettingsSchema, response: FunnelDetailSchema },
    ({ params, body, request }) => {
      refuseOlder(request, 'This funnel was', revisionOf(settingsOf(loadFunnel(db, params.id ?? '').funnel)));
      changeFunnel(services, params.id ?? '', body);
      return detail(params.id ?? '');
    },
  );
  api.on(
    { method: 'get', path: '/funnels/:id/differences', summary: 'What publishing would change on each page', response: z.array(StopDifferencesSchema) },
    ({ params }) => {
      const { steps, published } = loadFunnel(db, params.id ?? '');
      return steps.flatMap(({ id: stepId, draft }) => {
        const live = published?.snapshot.pages[stepId];
        const found = live ? differences(live, draft) : [];
        return live && found.length === 0 ? [] : [{ stepId, isNew: !live, differences: found }];
      });
    },
  );
  api.on(
    { method: 'put', path: '/funnels/:id/look', summary: 'Give a funnel a look and code of its own', body: FunnelLookSchema, response: FunnelDetailSchema },
    ({ params, body, request }) => {
      refuseOlder(request, 'The look of this funnel was', revisionOf(lookOf(loadFunnel(db, params.id ?? '').funnel)));
      changeLook(services, params.id ?? '', body);
      return detail(params.id ?? '');
    },
  );
  api.on(
    {
      method: 'post',
      path: '/funnels/:id/map',
      summary: 'Change the map: stops, routes, what a stop sells',
      body: MapChangeSchema,
      response: FunnelDetailSchema,
    },
    ({ params, body }) => {
      const change = splitArm(params.id ?? '').armId === null ? changeMap : changeArmMap;
      change(services, params.id ?? '', body, (productId) => findProduct(db, productId));
      return detail(params.id ?? '');
    },
  );
  api.on({ method: 'post', path: '/funnels/:id/publish', summary: 'Put the funnel live as it stands', response: FunnelDetailSchema }, ({ params, request }) => {
    publish(services, params.id ?? '', currentUser(services, request)?.id ?? null);
    return detail(params.id ?? '');
  });
  api.on(
    { method: 'put', path: '/steps/:id', summary: 'Change a stop’s name, address or product', body: StepSettingsSchema, response: FunnelDetailSchema },
    ({ params, body }) => {
      if (body.productId) loadProduct(db, body.productId);
      changeStep(services, params.id ?? '', body);
      return detail(loadStep(db, params.id ?? '').funnelId);
    },
  );
}
