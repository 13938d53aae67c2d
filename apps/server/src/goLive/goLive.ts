import { ProductListQuerySchema } from '@ruta/core/catalog';
import { markedPassages } from '@ruta/core/checks';
import { type GoLive, goLiveNeeds, type ModeChangeSchema, missingToGoLive } from '@ruta/core/shop';
import type { z } from 'zod';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { countProducts } from '../catalog/list';
import { latestPublications, listFunnels, publishedAt } from '../funnel/store';
import { takesCards } from '../payments/accounts';
import { countTestOrders, loadShop, saveShop } from '../shop/store';

/** The mode of the shop, and what it needs to go live. */
export function goLiveOf(services: Services): GoLive {
  const { db } = services;
  const { settings } = loadShop(db);
  const published = publishedAt(db);
  const funnels = listFunnels(db);
  const funnel = funnels.find(({ id }) => published.has(id)) ?? funnels.at(-1);
  const needs = goLiveNeeds({
    settings,
    sells: countProducts(db, ProductListQuerySchema.parse({ free: 'false' })) > 0,
    takesPayments: takesCards(services, 'live'),
    marked: settings.mode === 'test' ? markedPages(services) : [],
    hasTestOrder: countTestOrders(db) > 0,
    testLink: funnel ? `/funnels/${funnel.id}/map` : '/funnels',
  });
  return { mode: settings.mode, needs };
}

/** The pages visitors can see on which text of a template still stands. */
function markedPages({ db }: Services): Array<{ name: string; link: string }> {
  return latestPublications(db).flatMap(({ funnelId, snapshot: { graph, pages, name } }) =>
    graph.steps.flatMap((step) => {
      const page = pages[step.id];
      return page && markedPassages(page).length > 0 ? [{ name: `${name}, ${step.name}`, link: `/funnels/${funnelId}/page/${step.id}` }] : [];
    }),
  );
}

/**
 * Goes live, or back to test mode.
 * @throws Refusal 409 while something is missing that a live shop needs, or that is advised and was not waived
 */
export function changeMode(services: Services, { mode, anyway }: z.infer<typeof ModeChangeSchema>): GoLive {
  const { needs } = goLiveOf(services);
  const missing = mode === 'live' ? missingToGoLive(needs, anyway) : [];
  if (missing.length > 0) {
    const errors = missing.map(({ need, title, detail }) => ({ path: need, message: `${title}: ${detail}` }));
    throw new Refusal(409, 'The shop cannot go live yet.', errors);
  }
  saveShop(services, { settings: { ...loadShop(services.db).settings, mode } });
  return { mode, needs };
}
