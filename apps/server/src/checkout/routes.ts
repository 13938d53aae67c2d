import { LeftCartListQuerySchema, LeftCartPageSchema } from '@ruta/core/checkout';
import { CountSchema } from '@ruta/core/lists';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { countLeftCarts, listLeftCarts } from './leftCarts';

/** Carts that were left. */
export function cartRoutes(api: Api, services: Services): void {
  api.on(
    { method: 'get', path: '/carts', summary: 'Carts that were left, page by page', query: LeftCartListQuerySchema, response: LeftCartPageSchema },
    ({ query }) => listLeftCarts(services, query),
  );
  api.on({ method: 'get', path: '/carts/count', summary: 'How many carts a list has', query: LeftCartListQuerySchema, response: CountSchema }, ({ query }) => ({
    count: countLeftCarts(services.db, query),
  }));
}
