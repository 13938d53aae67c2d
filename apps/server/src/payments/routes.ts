import { ConnectionSchema } from '@ruta/core/connections';
import type { Api } from '../base/api';
import { connectProvider, type Paying, providerStatus } from './accounts';

export function paymentRoutes(api: Api, services: Paying): void {
  api.on({ method: 'get', path: '/connections/quayside', summary: 'The card processor', response: ConnectionSchema }, () =>
    providerStatus(services, 'quayside'),
  );
  api.on({ method: 'post', path: '/connections/quayside', summary: 'Connect the card processor', response: ConnectionSchema, role: 'owner' }, () =>
    connectProvider(services, 'quayside'),
  );
}
