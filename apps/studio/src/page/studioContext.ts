import { type PictureInfo, type Product, sentEditions } from '@ruta/core/catalog';
import { tickName } from '@ruta/core/checkout';
import type { FunnelDetail } from '@ruta/core/checks';
import { additionRole, type Step, sharedStep } from '@ruta/core/funnel';
import { formatMoney } from '@ruta/core/money';
import { bumpsOf, mainOffer, mainOffers, type Offer, offeredBy, offerLine, offerOption, pricedBy } from '@ruta/core/offers';
import type { Quote, ShopView } from '@ruta/core/pricing';
import { cartLine, laterWords, needsCard, quoteCart } from '@ruta/core/pricing';
import { legalLinks } from '@ruta/core/shop';
import { bumpView, type CheckoutView, checkoutOptions, type OffersView, offerName, offerWords, type PageContext, shopContext, shownProduct } from '@ruta/pages';

import { cleanHtml } from './cleanHtml';

type Named = Pick<FunnelDetail, 'products' | 'giftId' | 'graph'> & Partial<Pick<FunnelDetail, 'brand' | 'addresses'>>;

/** What a page is shown with in the studio: the shop's brand, the step's product, and a made-up buyer at home. */
export function studioContext(shop: ShopView, funnel: Named, step: Pick<Step, 'id' | 'sells' | 'kind'>, pictures: Record<string, PictureInfo>): PageContext {
  const { settings, brand } = shop;
  const offer = mainOffer(step);
  const named = funnel.products[offer?.productId ?? ''] ?? null;
  const product = named && offer ? pricedBy(named, offer) : named;
  const gift = funnel.giftId ? (funnel.products[funnel.giftId] ?? null) : null;
  const now = Date.now();
  const shown = (source: Product | null) => (source ? shownProduct(source, settings.currency, now) : null);
  const sums = product && offer ? homeQuote(shop, funnel, step, offer, product, now) : null;
  const { siteUrl } = shop;
  return {
    ...shopContext(funnel.brand ?? brand, { name: settings.name, email: settings.contactEmail, currency: settings.currency }),
    legal: legalLinks(settings),
    asksTaxNumber: settings.sellsToBusinesses ?? false,
    product: shown(product),
    gift: shown(gift),
    buyer: { firstName: 'Marta' },
    pictures,
    form: null,
    addressOf: (stepId) => funnel.addresses?.[stepId ?? step.id] ?? siteUrl,
    sharedAddress: (stepId) => funnel.addresses?.[sharedStep(funnel.graph, stepId)?.id ?? step.id] ?? siteUrl,
    cleanHtml,
    checkout: sums && product && offer && step.kind === 'checkout' ? checkoutPreview(shop, funnel, step, { offer, product, sums, pictures, now }) : null,
    order:
      step.kind === 'thank-you' && sums
        ? { number: '1001', test: false, quote: sums, downloads: [], links: [], keys: [], contacts: [], confirmations: [] }
        : null,
    offers: step.kind === 'offer' ? offersPreview(shop, funnel, step, now) : null,
    endsAt: mainOffers(step).some(({ deadline }) => deadline) || product?.closesAt ? { at: now, now, words: '' } : null,
  };
}

/** The same sums that the checkout and the payment use, with the bumps that are ticked beforehand. */
function homeQuote(shop: ShopView, funnel: Named, step: Pick<Step, 'sells'>, offer: Offer, product: Product, now: number): Quote {
  const find = (id: string) => funnel.products[id];
  const { option } = offerOption(product, offer);
  const main = cartLine('main', 'main', product, { priceId: option.id, quantity: offer.quantity }, { discount: offer.discount ?? undefined, find });
  const bumps = bumpsOf(step).flatMap((bump) => {
    const beside = find(bump.productId);
    return bump.bump.ticked && beside ? [offerLine(bump, beside, 'bump', find)] : [];
  });
  return quoteCart(shop, { lines: [main, ...bumps], buyer: { country: shop.settings.country } }, now);
}

interface Sold {
  offer: Offer;
  product: Product;
  sums: Quote;
  pictures: Record<string, PictureInfo>;
  now: number;
}

function checkoutPreview({ settings }: ShopView, funnel: Named, step: Pick<Step, 'sells'>, { offer, product, sums, pictures, now }: Sold): CheckoutView {
  const find = (id: string) => funnel.products[id];
  const wanted = new Set(offeredBy(product, offer).map(({ option }) => option.id));
  const bumps = bumpsOf(step).flatMap((bump) => {
    const beside = find(bump.productId);
    return beside ? [{ bump, beside }] : [];
  });
  const found = { currency: settings.currency, now, pictures };
  return {
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
    options: checkoutOptions(product, settings.currency, now).filter((option) => wanted.has(option.id)),
    bumps: bumps.map(({ bump, beside }) => bumpView(bump, beside, { ...found, ticked: bump.bump.ticked })),
    needsCard: needsCard(sums),
    mayNeedCard: true,
    sentOptions: sentEditions(product, find).flatMap((edition) => edition.prices.map((option) => option.id)),
    sentBumps: bumps.flatMap(({ bump, beside }) => (sentEditions(beside, find).includes(offerOption(beside, bump).edition) ? [tickName(bump.id)] : [])),
    cardFields: null,
    testMode: settings.mode === 'test',
    paidOrder: null,
  };
}

function offersPreview(shop: ShopView, funnel: Named, step: Pick<Step, 'id' | 'sells'>, now: number): OffersView {
  const { settings } = shop;
  const find = (id: string) => funnel.products[id];
  const role = additionRole(funnel.graph, step.id);
  return {
    actionUrl: '',
    quoteUrl: '',
    leftUrl: '',
    orderToken: '',
    offers: mainOffers(step).flatMap((offer) => {
      const product = find(offer.productId);
      if (!product) return [];
      const quote = quoteCart(shop, { lines: [offerLine(offer, product, role, find)], buyer: { country: settings.country } }, now);
      const { headline, text, label } = offer.words;
      return [
        {
          id: offer.id,
          name: offerName(offer, product),
          headline,
          text,
          label,
          ...offerWords(offer, product, settings.currency, now),
          dueToday: quote.dueToday,
          dueWords: formatMoney(quote.dueToday, quote.currency),
          laterWords: laterWords(quote),
          codeWords: '',
          asksQuantity: offer.asksQuantity,
          quantity: offer.quantity,
          asksAddress: false,
          endsAt: null,
        },
      ];
    }),
    message: null,
    cardEnding: '0019',
    cardFields: null,
    asking: null,
    values: {},
    errors: {},
  };
}
