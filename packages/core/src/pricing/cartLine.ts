import { firstOption, type LineRole, natureOf, type Option, optionsOf, type Product } from '../catalog';
import type { OfferDiscount } from './discount';
import type { QuoteLine, SummedQuote } from './quote';
import type { Bought, BundlePart, QuoteLineInput } from './quoteInput';

/** What a buyer has chosen of a product. */
export interface Choice {
  /** Id of the price; the product's first one if missing or unknown. */
  priceId?: string | undefined;
  quantity?: number | undefined;
  /** What to pay for one where the buyer chooses, minor units. */
  chosen?: number | undefined;
}

/** The chosen way to buy a product, or its first one. */
export function chosenOption(product: Pick<Product, 'editions'>, priceId: string | undefined): Option {
  return optionsOf(product).find(({ option }) => option.id === priceId) ?? firstOption(product);
}

/** The product's name as a buyer reads it on a line: with the edition where there are several. */
export function lineName(product: Pick<Product, 'name' | 'editions'>, { edition }: Option): string {
  return product.editions.length > 1 ? `${product.name}, ${edition.name}` : product.name;
}

/**
 * A cart's line for a product, ready to be quoted.
 * @param find finds the parts of a bundle
 */
export function cartLine(
  id: string,
  role: LineRole,
  product: Pick<Product, 'id' | 'name' | 'kind' | 'taxClass' | 'editions' | 'bundle'> & { alone?: boolean },
  choice: Choice = {},
  options: { discount?: OfferDiscount | undefined; find?: (productId: string) => Product | undefined } = {},
): QuoteLineInput {
  const chosen = chosenOption(product, choice.priceId);
  const { edition, option } = chosen;
  const parts = bundleParts(product, options.find);
  return {
    id,
    productId: product.id,
    editionId: edition.id,
    priceId: option.id,
    name: lineName(product, chosen),
    role,
    ...natureOf(product, edition),
    weight: edition.weight,
    price: option.price,
    quantity: choice.quantity ?? 1,
    ...(product.alone ? { alone: true } : {}),
    ...(choice.chosen === undefined ? {} : { chosen: choice.chosen }),
    ...(options.discount ? { discount: options.discount } : {}),
    ...(parts.length > 0 ? { parts } : {}),
  };
}

/** A bundle's parts with what each costs, weighs and is taxed as on its own. */
export function bundleParts(product: Pick<Product, 'bundle'>, find?: (productId: string) => Product | undefined): BundlePart[] {
  return product.bundle.flatMap(({ productId, editionId, quantity }) => {
    const part = find?.(productId);
    const edition = part?.editions.find((candidate) => candidate.id === editionId) ?? part?.editions[0];
    const price = edition?.prices[0]?.price;
    if (!part || !edition || !price) return [];
    const regular = price.kind === 'free' ? 0 : price.kind === 'pay-what-you-want' ? price.suggested : price.regular;
    return [{ productId, editionId: edition.id, name: part.name, ...natureOf(part, edition), weight: edition.weight, regular, quantity }];
  });
}

/**
 * What was bought by earlier quotes of one order, as a one-click addition needs it: instalments count whole, a set-up
 * fee is nothing that a code's minimum looks at and nothing that is sent, and a free trial has sent nothing yet.
 */
export function boughtBy(quotes: readonly SummedQuote[]): Bought {
  return {
    lines: quotes.flatMap((earlier) => earlier.lines.map((line) => boughtLine(line, earlier))),
    shipping: quotes.reduce((sum, { shipping }) => sum + (shipping ? Math.max(0, shipping.listed - shipping.paidBefore) : 0), 0),
  };
}

function boughtLine(line: QuoteLine, { plans }: Pick<SummedQuote, 'plans'>): Bought['lines'][number] {
  const { productId, role, kind, taxClass, weight, parts } = line;
  const isSent = line.part !== 'set-up fee' && !(line.part === 'trial' && line.amount === 0);
  return {
    productId,
    role,
    taxClass,
    amount: line.part === 'set-up fee' ? 0 : line.lineAmount,
    value: line.discounted + (line.part === 'instalment' ? (plans.find((plan) => plan.lineId === line.lineId)?.instalments ?? 0) : 0),
    sent: isSent,
    // A fee is no parcel, whatever it is a fee for.
    kind: line.part === 'set-up fee' ? 'service' : kind,
    weight,
    ...(parts ? { parts } : {}),
  };
}
