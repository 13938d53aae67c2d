import type { BoundValue } from '@ruta/core/elements';
import { formatMoney } from '@ruta/core/money';
import type { PageContext } from './context';

/** The text of a bound value; undefined where nothing is known, so that the fallback stands. */
export function boundText(value: BoundValue, context: PageContext): string | undefined {
  const { shop, product, gift, buyer, order, checkout } = context;
  const money = (amount: number) => formatMoney(amount, shop.currency, { short: true });
  switch (value) {
    case 'product.name':
      return product?.name;
    case 'product.description':
      return product?.description;
    case 'product.price':
      return product?.price;
    case 'product.regularPrice':
      return product && product.struck !== null ? money(product.struck) : '';
    case 'gift.name':
      return gift?.name;
    case 'buyer.firstName':
      return buyer?.firstName || undefined;
    case 'order.number':
      return order?.number;
    case 'order.total': {
      const quote = order?.quote ?? checkout?.quote;
      return quote ? formatMoney(quote.dueToday, quote.currency) : undefined;
    }
    case 'shop.name':
      return shop.name;
    case 'shop.email':
      return shop.email;
  }
}
