import { type PictureInfo, quoteProduct, type Step } from '@ruta/core';
import type { CheckoutView, PageContext } from '@ruta/pages';
import type { FunnelDetail, ShopView } from '../app/api';

/** What a page is shown with in the studio: the shop's brand, the step's product, and a made-up buyer. */
export function studioContext(
  shop: ShopView,
  funnel: Pick<FunnelDetail, 'products' | 'giftId'>,
  step: Pick<Step, 'productId' | 'kind'>,
  pictures: Record<string, PictureInfo>,
): PageContext {
  const { settings, brand } = shop;
  const product = step.productId ? (funnel.products[step.productId] ?? null) : null;
  const gift = funnel.giftId ? (funnel.products[funnel.giftId] ?? null) : null;
  // The same sums that the checkout and the payment use, for a buyer at home, so that the preview shows true sums.
  const sums = product ? quoteProduct(shop, product, settings.country, Date.now()) : null;
  const checkout: CheckoutView | null =
    sums && step.kind === 'checkout'
      ? {
          actionUrl: '',
          quoteUrl: '',
          contactUrl: '',
          cartId: '',
          quote: sums,
          values: {},
          errors: {},
          message: null,
          countries: [{ code: settings.country, name: new Intl.DisplayNames(['en'], { type: 'region' }).of(settings.country) ?? settings.country }],
          cardFields: null,
          testMode: settings.mode === 'test',
          paidOrder: null,
        }
      : null;
  return {
    brand,
    shop: { name: settings.name, email: settings.contactEmail, currency: settings.currency },
    product,
    gift,
    buyer: { firstName: 'Marta' },
    pictures,
    assetBase: '',
    href: () => '#',
    form: null,
    checkout,
    order: step.kind === 'thank-you' && sums ? { number: '1001', quote: sums, downloads: [] } : null,
  };
}
