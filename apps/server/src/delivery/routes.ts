import { ConnectionSchema } from '@ruta/core/connections';
import { OrderDeliverySchema } from '@ruta/core/delivery';
import { QueuedSchema } from '@ruta/core/orders';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { loadOrder } from '../orders/store';
import { sendReceiptAgain } from './receipt';
import { received } from './received';
import { grantsOf } from './store';
import { connectStudyporch, studyporchStatus } from './studyporch';

export function deliveryRoutes(api: Api, services: Services): void {
  const { db } = services;
  api.on({ method: 'get', path: '/orders/:id/delivery', summary: 'What a buyer received with an order', response: OrderDeliverySchema }, ({ params }) => {
    const order = loadOrder(db, params.id ?? '');
    return { ...received(services, order), files: grantsOf(db, [order.id]) };
  });
  api.on({ method: 'post', path: '/orders/:id/receipt', summary: 'Send the receipt of an order again', response: QueuedSchema }, ({ params }) => {
    sendReceiptAgain(services, params.id ?? '');
    return { queued: true };
  });
  api.on({ method: 'get', path: '/connections/studyporch', summary: 'The course host', response: ConnectionSchema }, () => studyporchStatus(services));
  api.on({ method: 'post', path: '/connections/studyporch', summary: 'Connect the course host', response: ConnectionSchema }, () =>
    connectStudyporch(services),
  );
}
