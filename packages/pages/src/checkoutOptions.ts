import { optionsOf, type Price, type Product, priceWords } from '@ruta/core/catalog';
import { type Currency, formatMoney } from '@ruta/core/money';
import type { CheckoutOption } from './context';

/**
 * Every way to buy a product as an order form lists it, on the public site and in the studio's previews.
 * @param now Unix time in milliseconds
 */
export function checkoutOptions(product: Pick<Product, 'editions'>, currency: Currency, now: number): CheckoutOption[] {
  return optionsOf(product).map(({ edition, option }) => ({
    id: option.id,
    edition: product.editions.length > 1 ? edition.name : '',
    name: option.name,
    price: priceWords(option.price, currency, now),
    description: option.description,
    chooses: choiceWords(option.price, currency),
    left: null,
  }));
}

/** Within what bounds a buyer may choose what to pay; null where the price is fixed. */
function choiceWords(price: Price, currency: Currency): string | null {
  if (price.kind !== 'pay-what-you-want') return null;
  const money = (amount: number) => formatMoney(amount, currency, { short: true });
  const bounds = [price.minimum > 0 ? `from ${money(price.minimum)}` : '', price.maximum === undefined ? '' : `up to ${money(price.maximum)}`].filter(Boolean);
  return bounds.length > 0 ? `(${bounds.join(', ')})` : '(as you like)';
}
