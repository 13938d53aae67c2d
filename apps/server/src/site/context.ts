import { optionsOf, type Product } from '@ruta/core/catalog';
import type { Action } from '@ruta/core/elements';
import { sharedStep } from '@ruta/core/funnel';
import { mainOffer, type Offer, pricedBy } from '@ruta/core/offers';
import { filesOn } from '@ruta/core/page';
import { legalLinks } from '@ruta/core/shop';
import { type Gone, type PageContext, shopContext, shownProduct } from '@ruta/pages';
import { appointmentsOn } from '../appointments/shown';
import type { Services } from '../base/services';
import { closedBecause, leftOf } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import { isOwnAddress } from '../domains/address';
import { findPictures } from '../files/store';
import { type LiveStep, stepAddress } from '../funnel/live';
import { loadShop } from '../shop/store';
import { cleanHtml } from './cleanHtml';
import { endOf } from './moment';

/** What a published step is shown with, before anything personal is known. */
export function publicContext(services: Services, live: LiveStep): PageContext {
  const { db, clock } = services;
  const { publication, step, page } = live;
  const { settings, brand } = loadShop(db);
  const { giftId } = publication.snapshot;
  const offer = mainOffer(step);
  // Whoever is at a checkout may hold the last one: there it is told for each of them.
  const tellsGone = step.kind === 'sales';
  const shown = (productId: string | null, offer?: Offer) => {
    const found = productId ? findProduct(db, productId) : undefined;
    const product = found && offer ? pricedBy(found, offer) : found;
    return product ? shownProduct(product, settings.currency, clock.now(), tellsGone ? goneOf(services, product) : undefined) : null;
  };
  const byId = new Map(publication.snapshot.graph.steps.map((each) => [each.id, each]));
  return {
    ...shopContext(publication.snapshot.brand ?? brand, { name: settings.name, email: settings.contactEmail, currency: settings.currency }),
    legal: legalLinks(settings),
    asksTaxNumber: settings.sellsToBusinesses ?? false,
    product: shown(offer?.productId ?? null, offer),
    gift: shown(giftId),
    pictures: findPictures(db, filesOn(page)),
    href: (action, elementId, { part, option } = {}) => hrefOf(step.id, action, elementId, part, option),
    addressOf: (stepId) => stepAddress(services, { publication, step: byId.get(stepId ?? '') ?? step }),
    sharedAddress: (stepId) => stepAddress(services, { publication, step: sharedStep(publication.snapshot.graph, stepId) ?? step }),
    // A link to another domain of the shop takes its visitor along.
    linkTo: (address) => (isOwnAddress(services, address) ? `/over?to=${encodeURIComponent(address)}` : address),
    cleanHtml,
    appointments: appointmentsOn(services, page, `/go/${step.id}/appointment`),
    form: { actionUrl: `/go/${step.id}/form`, values: {}, errors: {} },
    endsAt: endOfStep(services, live),
    endOf: (at) => endOf(services, at),
  };
}

/** What of a product nobody can buy at the moment, so that a page says so before anybody types their card. */
function goneOf(services: Services, product: Product): Gone {
  const gone = optionsOf(product).filter(({ edition }) => leftOf(services, edition, null) === 0);
  return { words: closedBecause(services, product, null)?.message ?? null, optionIds: new Set(gone.map(({ option }) => option.id)) };
}

/** Where a press leads: on this page, or past the counter that decides what comes next. */
function hrefOf(stepId: string, action: Action, elementId: string, part: number | undefined, option: string | undefined): string {
  switch (action.kind) {
    case 'scroll':
      return `#${action.target}`;
    case 'section':
      return `#${action.sectionId}`;
    case 'pop-up':
      return `#${action.popUpId}`;
    case 'next':
      return option ? `/go/${stepId}?by=${elementId}&option=${encodeURIComponent(option)}` : `/go/${stepId}`;
    case 'step':
    case 'address':
      // A mail program is not led anywhere; every other way out is counted and decided on the way.
      return action.kind === 'address' && action.url.startsWith('mailto:') ? action.url : `/go/${stepId}?by=${elementId}${part ? `&part=${part}` : ''}`;
    default:
      return action satisfies never;
  }
}

/** When what a page is about ends for everybody: its offer's date, else the day its product closes. */
function endOfStep({ db, clock }: Services, { step }: LiveStep): PageContext['endsAt'] {
  const offer = mainOffer(step);
  const product = offer && findProduct(db, offer.productId);
  const at = offer?.deadline?.until.kind === 'date' ? offer.deadline.until.at : product?.closesAt;
  return at && at > clock.now() ? endOf({ db, clock }, at) : null;
}
