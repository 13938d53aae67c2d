import { words } from '../elements';
import { headlinePart, one, part, type ReadySection } from './plan';

export const price: ReadySection = {
  purpose: 'price',
  name: 'Price',
  plan: () => ({
    name: 'Price',
    ground: 'tint',
    align: 'center',
    width: 'narrow',
    columns: one(headlinePart(2, 'medium', words({ bound: 'product.name' })), part('price'), part('button')),
  }),
};
