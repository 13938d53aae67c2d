import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { allElements, currentPrice, optionsOf, toDecimal, words } from '@ruta/core';
import type { PageContext } from '@ruta/pages';
import { renderPage } from '@ruta/pages/render';
import { leftOf } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { publicContext, stepPath } from './context';
import type { KeptPage, LiveStep } from './publicPages';
import { scriptUrl } from './scripts';

/** The HTML of a published step with what is known of its visitor. */
export function renderStep(services: Services, live: LiveStep, personal: Partial<PageContext> = {}): string {
  const context = { ...publicContext(services, live), ...personal };
  const { page, step } = live;
  const address = services.config.siteUrl + stepPath(live);
  const hasOrderForm = allElements(page).some((element) => element.type === 'order-form');
  const picture = context.product?.picture;
  const pictureUrl = picture ? `${services.config.siteUrl}/media/${picture.id}/${picture.widths.at(-1)}.webp` : null;
  return renderPage(page, context, {
    address,
    scripts: [scriptUrl(services.config, 'view'), ...(hasOrderForm ? [scriptUrl(services.config, 'checkout')] : [])],
    pixelUrl: `/e/pixel.gif?step=${step.id}`,
    structuredData: step.kind === 'sales' || step.kind === 'checkout' ? productData(services, live, context, address, pictureUrl) : null,
    shareImage: pictureUrl,
  });
}

/** The page as bytes ready to be sent again and again. */
export function keepPage(html: string): KeptPage {
  const bytes = Buffer.from(html);
  return { html: bytes, gzip: gzipSync(bytes, { level: 9 }), etag: `"${createHash('sha256').update(bytes).digest('base64url').slice(0, 22)}"` };
}

/** schema.org description of what is sold: the product with an offer for each edition and price. */
function productData(services: Services, live: LiveStep, context: PageContext, address: string, image: string | null): object | null {
  const { product: shown, shop } = context;
  const product = live.step.productId ? findProduct(services.db, live.step.productId) : undefined;
  if (!shown || !product) return null;
  const now = services.clock.now();
  const seller = { '@type': 'Organization', name: shop.name };
  const offers = optionsOf(product).map(({ edition, option }) => {
    const { current } = currentPrice(option.price, now);
    const price = toDecimal(current, shop.currency);
    const isOut = leftOf(services, edition, null) === 0;
    return {
      '@type': 'Offer',
      ...(product.editions.length > 1 || option.name
        ? { name: [product.editions.length > 1 ? edition.name : '', option.name].filter(Boolean).join(', ') }
        : {}),
      ...(edition.sku ? { sku: edition.sku } : {}),
      price,
      priceCurrency: shop.currency,
      ...(option.price.kind === 'subscription'
        ? {
            priceSpecification: {
              '@type': 'UnitPriceSpecification',
              price,
              priceCurrency: shop.currency,
              billingDuration: option.price.interval.every,
              unitCode: UNIT_CODES[option.price.interval.unit],
            },
          }
        : {}),
      ...(product.closesAt === null ? {} : { validThrough: new Date(product.closesAt).toISOString() }),
      availability: `https://schema.org/${isOut ? 'SoldOut' : 'InStock'}`,
      url: address,
      seller,
    };
  });
  return {
    '@context': 'https://schema.org',
    '@type': 'Product',
    name: shown.name,
    ...(shown.description ? { description: shown.description } : {}),
    ...(image ? { image } : {}),
    ...(product.categories[0] ? { category: product.categories[0] } : {}),
    offers: offers.length === 1 ? offers[0] : offers,
  };
}

/** UN/CEFACT codes of time, as schema.org asks for them. */
const UNIT_CODES = { day: 'DAY', week: 'WEE', month: 'MON', year: 'ANN' };

/** A page in the shop's brand that says one thing: an address that leads nowhere, a link that has ended. */
export function renderMessage(
  services: Services,
  title: string,
  message: string,
  options: { link?: { words: string; href: string }; refreshSeconds?: number } = {},
): string {
  const { settings, brand } = loadShop(services.db);
  const href = options.link?.href;
  const html = renderPage(
    {
      version: 1,
      title,
      description: '',
      indexed: false,
      sections: [
        {
          id: 'sec_header',
          name: 'Header',
          ground: 'dark',
          space: 'tight',
          align: 'start',
          width: 'normal',
          backdropId: null,
          columns: [{ id: 'col_header', span: 12, elements: [{ id: 'elm_logo', type: 'logo' }] }],
        },
        {
          id: 'sec_message',
          name: 'Message',
          ground: 'plain',
          space: 'wide',
          align: 'center',
          width: 'narrow',
          backdropId: null,
          columns: [
            {
              id: 'col_message',
              span: 12,
              elements: [
                { id: 'elm_title', type: 'headline', level: 1, size: 'medium', words: words(title) },
                { id: 'elm_text', type: 'text', style: 'lead', words: words(message) },
                ...(options.link
                  ? [{ id: 'elm_link', type: 'button' as const, style: 'main' as const, words: words(options.link.words), action: { kind: 'next' as const } }]
                  : []),
                { id: 'elm_contact', type: 'text', style: 'small', words: words('Questions? Write to ', { bound: 'shop.email' }) },
              ],
            },
          ],
        },
      ],
    },
    {
      brand,
      shop: { name: settings.name, email: settings.contactEmail, currency: settings.currency },
      product: null,
      gift: null,
      buyer: null,
      pictures: {},
      assetBase: '',
      href: () => href ?? '/',
      form: null,
      checkout: null,
      order: null,
    },
    { address: services.config.siteUrl, scripts: [], pixelUrl: null, structuredData: null, shareImage: null },
  );
  if (options.refreshSeconds === undefined) return html;
  return html.replace('<title>', `<meta http-equiv="refresh" content="${options.refreshSeconds}"><title>`);
}
