import { type PictureInfo, type Product, sentEditions } from '@ruta/core/catalog';
import type { FunnelDetail } from '@ruta/core/checks';
import type { Step } from '@ruta/core/funnel';
import { mainOffer } from '@ruta/core/offers';
import type { ShopView } from '@ruta/core/pricing';
import { cartLine, needsCard, quoteCart } from '@ruta/core/pricing';
import { type CheckoutView, checkoutOptions, type PageContext, shownProduct } from '@ruta/pages';

/** What a page is shown with in the studio: the shop's brand, the step's product, and a made-up buyer. */
export function studioContext(
  shop: ShopView,
  funnel: Pick<FunnelDetail, 'products' | 'giftId'>,
  step: Pick<Step, 'sells' | 'kind'>,
  pictures: Record<string, PictureInfo>,
): PageContext {
  const { settings, brand } = shop;
  const product = funnel.products[mainOffer(step)?.productId ?? ''] ?? null;
  const gift = funnel.giftId ? (funnel.products[funnel.giftId] ?? null) : null;
  const now = Date.now();
  const shown = (source: Product | null) => (source ? shownProduct(source, settings.currency, now) : null);
  // The same sums that the checkout and the payment use, for a buyer at home, so that the preview shows true sums.
  const find = (id: string) => funnel.products[id];
  const sums = product ? quoteCart(shop, { lines: [cartLine('main', 'main', product, {}, { find })], buyer: { country: settings.country } }, now) : null;
  const checkout: CheckoutView | null =
    sums && product && step.kind === 'checkout'
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
          regions: [],
          options: checkoutOptions(product, settings.currency, now),
          needsCard: needsCard(sums),
          sentOptions: sentEditions(product, find).flatMap((edition) => edition.prices.map((option) => option.id)),
          cardFields: null,
          testMode: settings.mode === 'test',
          paidOrder: null,
        }
      : null;
  return {
    brand,
    shop: { name: settings.name, email: settings.contactEmail, currency: settings.currency },
    product: shown(product),
    gift: shown(gift),
    buyer: { firstName: 'Marta' },
    pictures,
    assetBase: '',
    href: () => '#',
    form: null,
    checkout,
    order:
      step.kind === 'thank-you' && sums
        ? { number: '1001', test: false, quote: sums, downloads: [], links: [], keys: [], contacts: [], confirmations: [] }
        : null,
  };
}
