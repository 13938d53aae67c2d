import { optionsOf } from '@ruta/core/catalog';
import type { FunnelDetail } from '@ruta/core/checks';
import type { FactNames } from '@ruta/core/facts';
import { formatMoney } from '@ruta/core/money';
import { lineName } from '@ruta/core/pricing';
import { countryName } from '@ruta/core/shop';

/** Names for conditions in words, as things are called now. */
export function namesFor({ products }: Pick<FunnelDetail, 'products'>, currency: string): FactNames {
  const options = Object.values(products).flatMap((product) => optionsOf(product).map((each) => ({ product, ...each })));
  return {
    money: (amount) => formatMoney(amount, currency, { short: true }),
    product: (id) => products[id]?.name ?? 'a product that is gone',
    edition: (id) => {
      const found = options.find(({ edition }) => edition.id === id);
      return found ? lineName(found.product, found) : 'an edition that is gone';
    },
    price: (id) => {
      const found = options.find(({ option }) => option.id === id);
      return found ? found.option.name || lineName(found.product, found) : 'a price that is gone';
    },
    country: (code) => countryName(code),
  };
}
