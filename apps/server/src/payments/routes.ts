import { ConnectionSchema } from '@ruta/core/connections';
import { DoneAgainSchema, RefundRequestSchema, RefundsSchema } from '@ruta/core/orders';
import { UnknownChargesSchema } from '@ruta/core/payments';
import type { Api } from '../base/api';
import type { LiveServices } from '../funnel/live';
import type { Tracked } from '../tracking/recorder';
import { connectProvider, type Paying, providerStatus } from './accounts';
import { doAgain } from './consequences';
import { giveMoneyBack } from './refund';
import { dealtWith, openUnknown, refundUnknown } from './unknownCharges';

export function paymentRoutes(api: Api, services: Tracked & Paying & LiveServices): void {
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
  api.on(
    { method: 'get', path: '/connections/unknown-charges', summary: 'Money that was taken and is known to no order', response: UnknownChargesSchema },
    () => openUnknown(services.db),
  );
  api.on(
    {
      method: 'post',
      path: '/connections/unknown-charges/:id/refund',
      summary: 'Refund money that is known to no order',
      response: UnknownChargesSchema,
      role: 'owner',
    },
    ({ params }) => refundUnknown(services, params.id ?? ''),
  );
  api.on(
    {
      method: 'post',
      path: '/connections/unknown-charges/:id/dealt-with',
      summary: 'Note that money that is known to no order was dealt with by hand',
      response: UnknownChargesSchema,
      role: 'owner',
    },
    ({ params }) => dealtWith(services, params.id ?? ''),
  );
  api.on(
    {
      method: 'post',
      path: '/orders/:id/troubles/:troubleId/again',
      summary: 'Do once more what a payment should have brought',
      response: DoneAgainSchema,
    },
    ({ params }) => {
      doAgain(services, params.id ?? '', params.troubleId ?? '');
      return { done: true };
    },
  );
}
