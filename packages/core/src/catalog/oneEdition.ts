import type { NewId } from '../ids';
import type { Price } from './price';
import type { Edition } from './product';

/** The editions of a product that has only one, with the given prices. */
export function oneEdition(newId: NewId, prices: Array<Price | { name: string; price: Price }>, changes: Partial<Edition> = {}): Edition[] {
  return [namedEdition(newId, '', prices, changes)];
}

/** One edition with its prices, ready to be sold. */
export function namedEdition(newId: NewId, name: string, prices: Array<Price | { name: string; price: Price }>, changes: Partial<Edition> = {}): Edition {
  return {
    id: newId('edition'),
    name,
    sku: '',
    kind: null,
    taxClass: null,
    weight: 0,
    stock: null,
    prices: prices.map((each) => ({
      id: newId('price'),
      name: 'price' in each ? each.name : '',
      description: '',
      price: 'price' in each ? each.price : each,
      confirmation: null,
    })),
    ...changes,
  };
}
