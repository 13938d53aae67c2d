import { mainOffer } from '@ruta/core/offers';
import { allElements, type PageDocument } from '@ruta/core/page';
import { type PageContext, shownProduct } from '@ruta/pages';
import type { Services } from '../base/services';
import { findProduct } from '../catalog/store';
import { findPictures } from '../files/store';
import type { LiveStep } from '../funnel/live';
import { loadShop } from '../shop/store';
import { endOf } from './moment';

/** Ids of all pictures a page's document names. */
export function pictureIds(page: PageDocument): string[] {
  const backdrops = page.sections.flatMap((section) => section.backdropId ?? []);
  const pictures = allElements(page).flatMap((element) => (element.type === 'picture' && element.source?.kind === 'file' ? [element.source.fileId] : []));
  return [...new Set([...backdrops, ...pictures])];
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
    product: shown(mainOffer(step)?.productId ?? null),
    gift: shown(giftId),
    buyer: null,
    pictures: findPictures(db, pictureIds(page)),
    assetBase: '',
    href: (action, elementId) => {
      if (action.kind === 'scroll') return `#${action.target}`;
      if (action.kind === 'next') return `/go/${step.id}`;
      // A mail program is not led anywhere; every other way out is counted and decided on the way.
      return action.kind === 'address' && action.url.startsWith('mailto:') ? action.url : `/go/${step.id}?by=${elementId}`;
    },
    form: { actionUrl: `/go/${step.id}/form`, values: {}, errors: {} },
    checkout: null,
    order: null,
    offers: null,
    endsAt: endOfStep(services, live),
  };
}

/** When what a page is about ends for everybody: its offer's date, else the day its product closes. */
function endOfStep({ db, clock }: Services, { step }: LiveStep): PageContext['endsAt'] {
  const offer = mainOffer(step);
  const product = offer && findProduct(db, offer.productId);
  const at = offer?.deadline?.until.kind === 'date' ? offer.deadline.until.at : product?.closesAt;
  return at && at > clock.now() ? endOf({ db, clock }, at) : null;
}
