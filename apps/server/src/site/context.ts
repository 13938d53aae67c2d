import { allElements, type PageDocument } from '@ruta/core';
import { type PageContext, PERSONAL_VALUES, shownProduct } from '@ruta/pages';
import { findProduct } from '../catalog/store';
import { findPictures } from '../files/store';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import type { LiveStep } from './publicPages';

/** Ids of all pictures a page's document names. */
export function pictureIds(page: PageDocument): string[] {
  const backdrops = page.sections.flatMap((section) => section.backdropId ?? []);
  const pictures = allElements(page).flatMap((element) => (element.type === 'picture' && element.source?.kind === 'file' ? [element.source.fileId] : []));
  return [...new Set([...backdrops, ...pictures])];
}

/** The public address of a step, below the site's. */
export function stepPath({ publication, step }: Pick<LiveStep, 'publication' | 'step'>): string {
  const { slug, graph } = publication.snapshot;
  return step.id === graph.entryId ? `/${slug}` : `/${slug}/${step.slug}`;
}

/** What a published step is shown with, before anything personal is known. */
export function publicContext(services: Services, live: LiveStep): PageContext {
  const { db, clock } = services;
  const { publication, step, page } = live;
  const { settings, brand } = loadShop(db);
  const { giftId } = publication.snapshot;
  const shown = (productId: string | null) => {
    const product = productId ? findProduct(db, productId) : undefined;
    return product ? shownProduct(product, settings.currency, clock.now()) : null;
  };
  return {
    brand,
    shop: { name: settings.name, email: settings.contactEmail, currency: settings.currency },
    product: shown(step.productId),
    gift: shown(giftId),
    buyer: null,
    pictures: findPictures(db, pictureIds(page)),
    assetBase: '',
    href: (action) => {
      switch (action.kind) {
        case 'next':
          return `/go/${step.id}`;
        case 'step':
          return `/go/${step.id}?to=${action.stepId}`;
        case 'address':
          return action.url;
        case 'scroll':
          return `#${action.target}`;
      }
    },
    form: { actionUrl: `/go/${step.id}/form`, values: {}, errors: {} },
    checkout: null,
    order: null,
  };
}

const PERSONAL_ELEMENTS = new Set(['order-form', 'order-summary', 'receipt', 'downloads']);

/** Whether a page shows something that differs from visitor to visitor. */
export function isPersonal(page: PageDocument): boolean {
  return allElements(page).some(
    (element) =>
      PERSONAL_ELEMENTS.has(element.type) ||
      Object.values(element).some((value) => Array.isArray(value) && value.some((node) => node?.type === 'bound' && PERSONAL_VALUES.has(node.value))),
  );
}
