import type { Product } from '../catalog';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { type Graph, type Outcome, type Step, type StepKind, slugify } from './funnel';
import { checkoutPage, optInPage, salesPage, thankYouPage } from './templatePages';

export const FUNNEL_TEMPLATES = {
  'straight-sale': {
    name: 'Straight sale',
    purpose: 'A sales page makes the case, the checkout takes the payment.',
    stops: ['sales', 'checkout', 'thank-you'],
    needsGift: false,
  },
  'gift-first': {
    name: 'Free gift first',
    purpose: 'Visitors leave an address for a free gift, then see what you sell.',
    stops: ['opt-in', 'checkout', 'thank-you'],
    needsGift: true,
  },
} as const satisfies Record<string, { name: string; purpose: string; stops: StepKind[]; needsGift: boolean }>;
export type FunnelTemplate = keyof typeof FUNNEL_TEMPLATES;

export interface TemplateProducts {
  product: Pick<Product, 'id' | 'name' | 'kind' | 'pictureIds'> & Partial<Pick<Product, 'included'>>;
  gift?: Pick<Product, 'id' | 'name' | 'pictureIds'> | undefined;
}

export interface DrawnFunnel {
  graph: Graph;
  pages: Record<string, PageDocument>;
}

/**
 * Draws a whole funnel from a template: steps, routes and every page, bound to the products.
 * @throws RangeError if the template needs a gift and none is given
 */
export function drawFunnel(template: FunnelTemplate, products: TemplateProducts, newId: NewId): DrawnFunnel {
  const { product, gift } = products;
  if (FUNNEL_TEMPLATES[template].needsGift && !gift) throw new RangeError('Choose the free gift that visitors receive.');
  const step = (kind: StepKind, name: string, slug: string, productId: string | null): Step => ({ id: newId('step'), kind, name, slug, productId });

  const checkout = step('checkout', 'Checkout', 'checkout', product.id);
  const thankYou = step('thank-you', 'Thank you', 'thank-you', product.id);
  const arrival = gift
    ? step('opt-in', shorten(gift.name), slugify(shorten(gift.name)) || 'gift', gift.id)
    : step('sales', shorten(product.name), slugify(shorten(product.name)) || 'offer', product.id);
  const route = (from: Step, outcome: Outcome, to: Step) => ({ id: newId('route'), from: from.id, outcome, priority: 0, to: to.id });

  return {
    graph: {
      entryId: arrival.id,
      steps: [arrival, checkout, thankYou],
      routes: [route(arrival, gift ? 'submitted' : 'next', checkout), route(checkout, 'paid', thankYou)],
    },
    pages: {
      [arrival.id]: gift ? optInPage(gift, newId) : salesPage(product, newId),
      [checkout.id]: checkoutPage(product, newId),
      [thankYou.id]: thankYouPage(product, newId),
    },
  };
}

/** The part of a product's name before its explanation: `Moon Month, a printable calendar` → `Moon Month`. */
function shorten(name: string): string {
  return (name.split(/[,:(–]/)[0] ?? name).trim().slice(0, 60) || name.slice(0, 60);
}
