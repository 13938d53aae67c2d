import { LiveUseSchema, NamedQuerySchema, ProductIdsSchema } from '@ruta/core/catalog';
import {
  type FunnelDetail,
  FunnelDetailSchema,
  type FunnelState,
  FunnelStateSchema,
  type PublicationList,
  PublicationListSchema,
  PublicationQuerySchema,
  StopDifferencesSchema,
} from '@ruta/core/checks';
import { splitArm } from '@ruta/core/experiments';
import {
  ArchiveSchema,
  FunnelLookSchema,
  FunnelSettingsSchema,
  GraphSchema,
  MapChangeSchema,
  NamedSchema,
  NamedStepSchema,
  OfflineChangeSchema,
  StepSettingsSchema,
} from '@ruta/core/funnel';
import { differences } from '@ruta/core/page';
import { FunnelCopySchema, NewFunnelSchema } from '@ruta/core/templates';
import { z } from 'zod';
import { changeArmMap } from '../arms/armFunnel';
import { endTestsOf } from '../arms/rounds';
import type { Api } from '../base/api';
import { refuseOlder, revisionOf } from '../base/revision';
import { findProduct, loadProduct } from '../catalog/store';
import { changeMap } from '../funnel/changeMap';
import { type LiveServices, stepAddress } from '../funnel/live';
import { setOffline } from '../funnel/offline';
import { archiveFunnel, changeFunnel, changeLook, changeStep } from '../funnel/service';
import { sharedBy } from '../funnel/sharedOffers';
import { funnelsWith, loadFunnel, loadStep, stepsNamed } from '../funnel/store';
import { currentUser } from '../team/access';
import { copyOfFunnel, createFunnel } from '../templates/createFunnel';
import { lookOf, settingsOf } from './detail';
import { liveUse } from './liveUse';
import { draftFromPublication } from './publications';
import { publish } from './publish';
import { QrQuerySchema, sendQr } from './qr';

/** One funnel: what it is, what is wrong with it, and putting it live. */
export function funnelRoutes(api: Api, services: LiveServices): void {
  const { db } = services;

  // What a seller has made is looked through in a thread of its own: a large map takes its time.
  const detail = async (id: string): Promise<FunnelDetail> => {
    const known = await services.checking.ask<Omit<FunnelDetail, 'addresses'>>('funnel', id);
    const publication = { funnelId: splitArm(id).id, snapshot: known };
    return { ...known, addresses: Object.fromEntries(known.graph.steps.map((step) => [step.id, stepAddress(services, { publication, step })])) };
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
  api.on(
    { method: 'get', path: '/steps/named', summary: 'Some steps by their ids', query: NamedQuerySchema, response: z.array(NamedStepSchema) },
    ({ query }) => stepsNamed(db, query.ids),
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
    ({ params }) => services.checking.ask<FunnelState>('funnelStanding', params.id ?? ''),
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
  api.on(
    { method: 'post', path: '/funnels/:id/publish', summary: 'Put the funnel live as it stands', response: FunnelDetailSchema },
    async ({ params, request }) => {
      await publish(services, params.id ?? '', currentUser(services, request)?.id ?? null);
      return detail(params.id ?? '');
    },
  );
  api.on(
    {
      method: 'get',
      path: '/funnels/:id/publications',
      summary: 'When a funnel was published, by whom, and what that changed',
      query: PublicationQuerySchema,
      response: PublicationListSchema,
    },
    ({ params, query }) => services.checking.ask<PublicationList>('publications', { funnelId: params.id ?? '', before: query.before }),
  );
  api.on(
    { method: 'post', path: '/funnels/:id/publications/:version/draft', summary: 'Make the draft what was published once', response: FunnelDetailSchema },
    ({ params, request }) => {
      draftFromPublication(services, params.id ?? '', Number(params.version), currentUser(services, request)?.id ?? null);
      return detail(params.id ?? '');
    },
  );
  api.on(
    {
      method: 'put',
      path: '/funnels/:id/offline',
      summary: 'Take a funnel offline, or put it online again',
      body: OfflineChangeSchema,
      response: FunnelDetailSchema,
    },
    ({ params, body }) => {
      const id = params.id ?? '';
      db.transaction((tx) => {
        setOffline({ ...services, db: tx }, id, body.page);
        if (body.page) endTestsOf(services, tx, id, 'The funnel was taken offline, so nobody comes to it any more. The original stays.');
      });
      services.changes.announce();
      return detail(id);
    },
  );
  api.on({ method: 'get', path: '/qr', summary: 'An address as a QR code, to be printed', query: QrQuerySchema, role: 'viewer' }, async ({ query, response }) =>
    sendQr(response, query),
  );
  api.on(
    { method: 'put', path: '/steps/:id', summary: 'Change a stop’s name, address or product', body: StepSettingsSchema, response: FunnelDetailSchema },
    ({ params, body }) => {
      if (body.productId) loadProduct(db, body.productId);
      changeStep(services, params.id ?? '', body);
      return detail(loadStep(db, params.id ?? '').funnelId);
    },
  );
}
