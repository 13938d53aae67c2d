import { ConnectionSchema } from '@ruta/core/connections';
import { RefundRequestSchema, RefundsSchema } from '@ruta/core/orders';
import type { Api } from '../base/api';
import type { Tracked } from '../tracking/recorder';
import { connectProvider, type Paying, providerStatus } from './accounts';
import { giveMoneyBack } from './refund';

export function paymentRoutes(api: Api, services: Tracked & Paying): void {
  api.on({ method: 'get', path: '/connections/quayside', summary: 'The card processor', response: ConnectionSchema }, () =>
    providerStatus(services, 'quayside'),
  );
  api.on({ method: 'post', path: '/connections/quayside', summary: 'Connect the card processor', response: ConnectionSchema, role: 'owner' }, () =>
    connectProvider(services, 'quayside'),
  );
  api.on(
    {
      method: 'post',
      path: '/orders/:id/refunds',
      summary: 'Give money of an order back',
      body: RefundRequestSchema,
      response: RefundsSchema,
      role: 'owner',
    },
    ({ body, params }) => giveMoneyBack(services, params.id ?? '', body),
  );
}
