import { allElements, type PageDocument } from '@ruta/core/page';
import type { PageContext } from '@ruta/pages';
import { renderPage } from '@ruta/pages/render';
import type { Services } from '../base/services';
import { type LiveStep, stepPath } from '../funnel/live';
import { loadShop } from '../shop/store';
import { publicContext } from './context';
import { productData } from './productData';
import { scriptUrl } from './scripts';

/** The HTML of a published step with what is known of its visitor. */
export function renderStep(services: Services, live: LiveStep, personal: Partial<PageContext> = {}): string {
  const context = { ...publicContext(services, live), ...personal };
  const { page, step } = live;
  const address = services.config.siteUrl + stepPath(live);
  const types = new Set(allElements(page).map((element) => element.type));
  const picture = context.product?.picture;
  const pictureUrl = picture ? `${services.config.siteUrl}/media/${picture.id}/${picture.widths.at(-1)}.webp` : null;
  return renderPage(page, context, {
    address,
    scripts: [
      scriptUrl(services.config, 'view'),
      ...(types.has('order-form') ? [scriptUrl(services.config, 'checkout')] : []),
      ...(types.has('offers') || types.has('countdown') ? [scriptUrl(services.config, 'offer')] : []),
    ],
    pixelUrl: `/e/pixel.gif?step=${step.id}`,
    structuredData: step.kind === 'sales' || step.kind === 'checkout' ? productData(services, live, context, address, pictureUrl) : null,
    shareImage: pictureUrl,
  });
}

/** A page of the site's own, which no funnel has: nothing is counted on it. */
export function renderOwnPage({ db, config }: Pick<Services, 'db' | 'config'>, page: PageDocument, known: Partial<PageContext>): string {
  const { settings, brand } = loadShop(db);
  const context: PageContext = {
    brand,
    shop: { name: settings.name, email: settings.contactEmail, currency: settings.currency },
    product: null,
    gift: null,
    buyer: null,
    pictures: {},
    assetBase: '',
    href: () => '/',
    form: null,
    checkout: null,
    order: null,
    offers: null,
    endsAt: null,
    ...known,
  };
  return renderPage(page, context, { address: config.siteUrl, scripts: [], pixelUrl: null, structuredData: null, shareImage: null });
}
