import { optionsOf, type Product } from '../catalog';
import type { FactNames } from '../facts';
import { formatMoney } from '../money';
import { lineName } from '../pricing';
import { countryName } from '../shop';

/** What conditions name: products, and steps of the funnel they stand in or of others. */
interface Named {
  products: Record<string, Product>;
  graph?: { steps: ReadonlyArray<{ id: string; name: string }> };
}

/** Names for conditions in words, as things are called now. */
export function namesFor({ products, graph }: Named, currency: string): FactNames {
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
    step: (id) => graph?.steps.find((step) => step.id === id)?.name ?? 'a step that is gone',
  };
}
