import { type ElementType, isElementOf, type PageElement } from '@ruta/core/elements';
import { allElements, type PageDocument } from '@ruta/core/page';
import { askedCategories, askedConsent, legalLinks } from '@ruta/core/shop';
import { type DataLayerEntry, type PurchaseEntry, wholeUnits, withOrderValues } from '@ruta/core/tracking';
import { type PageContext, shopContext } from '@ruta/pages';
import { type HtmlOptions, renderPage } from '@ruta/pages/render';
import type { Services } from '../base/services';
import { SHARED_SIZE } from '../files/madePictures';
import { type LiveStep, stepAddress } from '../funnel/live';
import { loadShop } from '../shop/store';
import { wordingOf } from '../tracking/consent';
import type { Tracked } from '../tracking/recorder';
import { publicContext } from './context';
import { codeOn } from './policy';
import { productData } from './productData';
import { scriptUrl } from './scripts';

/**
 * The HTML of a published step with what is known of its visitor.
 * @param purchases what they have just paid, for the seller's own code to hear of, and for the site around a frame
 * @param inFrame whether it is shown in a frame on another site
 */
export function renderStep(
  services: Tracked,
  live: LiveStep,
  personal: Partial<PageContext> = {},
  purchases: readonly PurchaseEntry[] = [],
  inFrame = false,
): string {
  const context = { ...publicContext(services, live), ...personal };
  const { page, step } = live;
  const address = stepAddress(services, live);
  const { consent: settings } = loadShop(services.db).settings;
  const consent = settings && askedConsent(settings, services.recorder.told());
  const asks = consent && askedCategories(consent).length > 0;
  const types = new Set(allElements(page).map((element) => element.type));
  const picture = context.pictures[page.shareImageId ?? ''] ?? context.product?.picture;
  const pictureUrl = picture ? `${services.config.siteUrl}/media/${picture.id}/${picture.widths.at(-1)}.webp` : null;
  return renderPage(page, context, {
    address,
    scripts: [
      scriptUrl(services.config, 'view'),
      ...(asks ? [scriptUrl(services.config, 'consent')] : []),
      ...(isLively(page) ? [scriptUrl(services.config, 'page')] : []),
      ...(types.has('order-form') ? [scriptUrl(services.config, 'checkout')] : []),
      ...(inFrame ? [scriptUrl(services.config, 'framed')] : []),
      ...(types.has('offers') || types.has('countdown') ? [scriptUrl(services.config, 'offer')] : []),
    ],
    pixelUrl: `/e/pixel.gif?step=${step.id}`,
    structuredData: step.kind === 'sales' || step.kind === 'checkout' ? productData(services, live, context, address, pictureUrl) : null,
    shareImage: picture ? { url: `${services.config.siteUrl}/media/${picture.id}/shared.jpg`, ...SHARED_SIZE } : null,
    icon: page.iconId ?? context.brand.iconId ?? null,
    consent: asks
      ? { settings: consent, wording: wordingOf(consent), policyUrl: consent.policyUrl || (context.legal.find(({ kind }) => kind === 'privacy')?.path ?? '') }
      : null,
    framed: inFrame ? purchases : null,
    ...ownCodeOf(services, live, context, purchases),
  });
}

/** The seller's own code on a step, with what it can read of the page and of an order that was just paid. */
function ownCodeOf(
  services: Services,
  live: LiveStep,
  { product }: PageContext,
  purchases: readonly PurchaseEntry[],
): Pick<HtmlOptions, 'code' | 'data' | 'purchases'> {
  const code = codeOn(services, live);
  if (code.length === 0) return { code };
  const { mode, currency } = loadShop(services.db).settings;
  const { publication, step } = live;
  const page: DataLayerEntry = {
    event: 'page',
    mode,
    funnel: publication.snapshot.slug,
    stop: { id: step.id, kind: step.kind, address: step.slug },
    currency,
    product: product ? { name: product.name, price: product.current === null ? null : wholeUnits(product.current, currency) } : null,
  };
  return {
    code,
    data: [page],
    purchases: purchases.map((entry) => ({ entry, code: code.map(({ needs, purchase }) => ({ needs, html: withOrderValues(purchase, entry) })) })),
  };
}

/** Elements that do more with a script: videos that play in place, carousels, sharing, times by one's own clock. */
const LIVELY: ReadonlySet<ElementType> = new Set(['video', 'testimonials', 'share', 'appointment']);
const isLively = (page: PageDocument): boolean =>
  (page.popUps?.length ?? 0) > 0 || allElements(page).some((element) => LIVELY.has(element.type) || isLivelyForm(element));
/** A form with stages, or with fields that take what the link says. */
const isLivelyForm = (element: PageElement): boolean =>
  isElementOf(element, 'form') && (element.stages !== undefined || element.fields.some(({ kind }) => kind === 'hidden'));

/** A page of the site's own, which no funnel has: nothing is counted on it. */
export function renderOwnPage(
  { db, config }: Pick<Services, 'db' | 'config'>,
  page: PageDocument,
  known: Partial<PageContext>,
  scripts: string[] = [],
): string {
  const { settings, brand } = loadShop(db);
  const context: PageContext = {
    ...shopContext(brand, { name: settings.name, email: settings.contactEmail, currency: settings.currency }),
    legal: legalLinks(settings),
    href: () => '/',
    form: null,
    ...known,
  };
  return renderPage(page, context, {
    address: config.siteUrl,
    scripts,
    pixelUrl: null,
    structuredData: null,
    shareImage: null,
    icon: context.brand.iconId ?? null,
    code: [],
  });
}
