import { words } from '../elements';
import { one, type ReadySection, textPart } from './plan';

export const footer: ReadySection = {
  key: 'footer',
  purpose: 'footer',
  name: 'Footer',
  plan: () => ({
    name: 'Footer',
    ground: 'tint',
    space: 'tight',
    align: 'center',
    columns: one(textPart('small', words({ bound: 'shop.name' }, ' · Questions? Write to ', { bound: 'shop.email' }))),
  }),
};
