import type { Brand } from '@ruta/core/shop';
import type { PageContext } from './context';

/** What a page is shown with before anything but the shop is known. */
export const shopContext = (brand: Brand, shop: PageContext['shop']): PageContext => ({
  brand,
  shop,
  legal: [],
  asksTaxNumber: false,
  notice: null,
  product: null,
  gift: null,
  buyer: null,
  pictures: {},
  assetBase: '',
  href: () => '#',
  addressOf: () => '',
  sharedAddress: () => '',
  cleanHtml: () => '',
  appointments: {},
  form: { actionUrl: '', values: {}, errors: {} },
  checkout: null,
  order: null,
  offers: null,
  endsAt: null,
  endOf: (at) => ({ at, now: at - 1, words: '' }),
});
