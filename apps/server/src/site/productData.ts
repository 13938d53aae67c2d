import { currentPrice, optionsOf } from '@ruta/core/catalog';
import { toDecimal } from '@ruta/core/money';
import { mainOffer, pricedBy } from '@ruta/core/offers';
import type { PageContext } from '@ruta/pages';
import type { Services } from '../base/services';
import { leftOf } from '../catalog/availability';
import { findProduct } from '../catalog/store';
import type { LiveStep } from '../funnel/live';

/** schema.org description of what is sold: the product with an offer for each edition and price. */
export function productData(
  services: Pick<Services, 'db' | 'clock'>,
  live: LiveStep,
  context: PageContext,
  address: string,
  image: string | null,
): object | null {
  const { product: shown, shop } = context;
  const offer = mainOffer(live.step);
  const found = offer && findProduct(services.db, offer.productId);
  const product = found && pricedBy(found, offer);
  if (!shown || !product) return null;
  const now = services.clock.now();
  const seller = { '@type': 'Organization', name: shop.name };
  const offers = optionsOf(product).map(({ edition, option }) => {
    const { current } = currentPrice(option.price, now);
    const price = toDecimal(current, shop.currency);
    const isOut = shown.gone !== null || leftOf(services, edition, null) === 0;
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
