import { FunnelFiguresSchema, GraphSchema, PageDocumentSchema, PictureInfoSchema, ProductSchema, stopsInOrder } from '@ruta/core';
import { desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { findProducts } from '../catalog/store';
import { findPictures } from '../files/store';
import type { Api } from '../http/api';
import type { Services } from '../services';
import { pictureIds, stepPath } from '../site/context';
import { currentUser } from '../team/access';
import { funnelFigures } from '../tracking/report';
import {
  changeFunnel,
  changeStep,
  createFunnel,
  DraftSchema,
  FunnelSettingsSchema,
  NewFunnelSchema,
  publish,
  publishProblems,
  StepSettingsSchema,
  savePage,
  unpublishedChanges,
} from './service';
import { listFunnels, loadFunnel, loadStep } from './store';
import { publications } from './tables';

const FunnelRowSchema = z.object({
  id: z.string(),
  name: z.string(),
  slug: z.string(),
  live: z.boolean(),
  stops: z.array(z.object({ id: z.string(), kind: z.string(), name: z.string() })),
  productName: z.string().nullable(),
  figures: FunnelFiguresSchema,
});

const FunnelDetailSchema = z.object({
  id: z.string(),
  name: z.string(),
  slug: z.string(),
  giftId: z.string().nullable(),
  graph: GraphSchema,
  /** Step ids in the order people pass them. */
  stops: z.array(z.string()),
  publishedAt: z.int().nullable(),
  version: z.int(),
  changes: z.object({ stepIds: z.array(z.string()), settings: z.boolean() }),
  problems: z.array(z.object({ stepId: z.string().nullable(), message: z.string(), severity: z.enum(['stop', 'warning']) })),
  addresses: z.record(z.string(), z.string()),
  products: z.record(z.string(), ProductSchema).describe('What the stops sell and give, and the parts of bundles'),
  publications: z.array(z.object({ version: z.int(), at: z.int() })),
});

const StepPageSchema = z.object({ stepId: z.string(), revision: z.int(), page: PageDocumentSchema, pictures: z.record(z.string(), PictureInfoSchema) });

const DAY_MS = 24 * 60 * 60 * 1000;
const DEFAULT_DAYS = 30;

export function funnelRoutes(api: Api, services: Services): void {
  const { db, clock } = services;

  const figuresOf = (id: string, entryId: string, stepIds: string[], days: number) =>
    funnelFigures(db, id, entryId, stepIds, clock.now() - days * DAY_MS, clock.now() + 1);

  const detail = (id: string): z.infer<typeof FunnelDetailSchema> => {
    const state = loadFunnel(db, id);
    const { funnel, graph, published } = state;
    const productIds = [...new Set([...graph.steps.flatMap((step) => step.productId ?? []), ...(funnel.giftId ? [funnel.giftId] : [])])];
    const named = findProducts(db, productIds);
    const products = [
      ...named,
      ...findProducts(
        db,
        named.flatMap((product) => product.bundle.map((part) => part.productId)),
      ),
    ];
    const publication = { snapshot: { slug: funnel.slug, graph } } as Parameters<typeof stepPath>[0]['publication'];
    return {
      id,
      name: funnel.name,
      slug: funnel.slug,
      giftId: funnel.giftId,
      graph,
      stops: stopsInOrder(graph).map((step) => step.id),
      publishedAt: published?.at ?? null,
      version: published?.version ?? 0,
      changes: unpublishedChanges(state),
      problems: publishProblems(services, state),
      addresses: Object.fromEntries(graph.steps.map((step) => [step.id, services.config.siteUrl + stepPath({ publication, step })])),
      products: Object.fromEntries(products.map((product) => [product.id, product])),
      publications: db
        .select({ version: publications.version, at: publications.at })
        .from(publications)
        .where(eq(publications.funnelId, id))
        .orderBy(desc(publications.version))
        .limit(20)
        .all(),
    };
  };

  api.on({ method: 'get', path: '/funnels', summary: 'All funnels with their figures of the last 30 days', response: z.array(FunnelRowSchema) }, () =>
    listFunnels(db).map(({ id }) => {
      const { funnel, graph, published } = loadFunnel(db, id);
      const stops = stopsInOrder(graph);
      const checkout = stops.find((step) => step.kind === 'checkout');
      return {
        id,
        name: funnel.name,
        slug: funnel.slug,
        live: published !== undefined,
        stops: stops.map(({ id: stepId, kind, name }) => ({ id: stepId, kind, name })),
        productName: checkout?.productId ? (findProducts(db, [checkout.productId])[0]?.name ?? null) : null,
        figures: figuresOf(
          id,
          graph.entryId,
          stops.map((step) => step.id),
          DEFAULT_DAYS,
        ),
      };
    }),
  );
  api.on({ method: 'post', path: '/funnels', summary: 'Start a funnel from a template', body: NewFunnelSchema, response: FunnelDetailSchema }, ({ body }) =>
    detail(createFunnel(services, body)),
  );
  api.on({ method: 'get', path: '/funnels/:id', summary: 'One funnel', response: FunnelDetailSchema }, ({ params }) => detail(params.id ?? ''));
  api.on(
    { method: 'put', path: '/funnels/:id', summary: 'Rename or move a funnel', body: FunnelSettingsSchema, response: FunnelDetailSchema },
    ({ params, body }) => {
      changeFunnel(services, params.id ?? '', body);
      return detail(params.id ?? '');
    },
  );
  api.on({ method: 'get', path: '/funnels/:id/figures', summary: 'Figures per stop; ?days=30', response: FunnelFiguresSchema }, ({ params, request }) => {
    const { funnel, graph } = loadFunnel(db, params.id ?? '');
    const days = Math.min(Math.max(Number(request.query.days) || DEFAULT_DAYS, 1), 3650);
    services.recorder.flush();
    return figuresOf(
      funnel.id,
      funnel.entryId,
      stopsInOrder(graph).map((step) => step.id),
      days,
    );
  });
  api.on({ method: 'post', path: '/funnels/:id/publish', summary: 'Put the funnel live as it stands', response: FunnelDetailSchema }, ({ params, request }) => {
    publish(services, params.id ?? '', currentUser(services, request)?.id ?? null);
    return detail(params.id ?? '');
  });
  api.on(
    { method: 'put', path: '/steps/:id', summary: 'Change a stop’s name, address or product', body: StepSettingsSchema, response: FunnelDetailSchema },
    ({ params, body }) => {
      changeStep(services, params.id ?? '', body);
      return detail(loadStep(db, params.id ?? '').funnelId);
    },
  );
  api.on({ method: 'get', path: '/steps/:id/page', summary: 'A page’s draft', response: StepPageSchema }, ({ params }) => {
    const step = loadStep(db, params.id ?? '');
    return { stepId: step.id, revision: step.revision, page: step.draft, pictures: findPictures(db, pictureIds(step.draft)) };
  });
  api.on(
    { method: 'put', path: '/steps/:id/page', summary: 'Save a page’s draft', body: DraftSchema, response: z.object({ revision: z.int() }) },
    ({ params, body }) => ({
      revision: savePage(services, params.id ?? '', body),
    }),
  );
}
