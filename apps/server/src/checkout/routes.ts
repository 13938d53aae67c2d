import { type CartCount, CartCountSchema, CartListQuerySchema, type CartPage, CartPageSchema } from '@ruta/core/checkout';
import type { Api } from '../base/api';
import { sendInParts } from '../base/sendFile';
import type { Services } from '../base/services';

/** Abandoned carts. */
export function cartRoutes(api: Api, services: Services): void {
  const { siteUrl } = services.config;
  api.on({ method: 'get', path: '/carts', summary: 'Abandoned carts, page by page', query: CartListQuerySchema, response: CartPageSchema }, ({ query }) =>
    services.reading.ask<CartPage>('carts', { ...query, siteUrl }),
  );
  api.on(
    { method: 'get', path: '/carts/count', summary: 'How many carts a list has, and what they came to', query: CartListQuerySchema, response: CartCountSchema },
    ({ query }) => services.reading.ask<CartCount>('countCarts', query),
  );
  api.on({ method: 'get', path: '/carts/export', summary: 'The carts of a list as CSV', query: CartListQuerySchema }, ({ query, response }) =>
    sendInParts(response, 'abandoned-carts.csv', (after) =>
      services.reading.ask<{ csv: string; next: string | null }>('cartsCsv', { ...query, after, siteUrl }),
    ),
  );
}
