import { NewWebhookSchema, WebhookChangeSchema, WebhookSchema, WebhookSecretSchema } from '@ruta/core/webhooks';
import { z } from 'zod';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { addWebhook, changeWebhook, listWebhooks, removeWebhook, rotateSecret } from './store';

/** Programs outside that are told what happens, and the log of what they were told. */
export function webhookRoutes(api: Api, services: Services): void {
  api.on({ method: 'get', path: '/webhooks', summary: 'Programs that are told what happens', response: z.array(WebhookSchema) }, () => listWebhooks(services));
  api.on(
    { method: 'post', path: '/webhooks', summary: 'Tell one more program', body: NewWebhookSchema, response: WebhookSecretSchema, role: 'owner' },
    ({ body }) => addWebhook(services, body),
  );
  api.on(
    {
      method: 'put',
      path: '/webhooks/:id',
      summary: 'Change what a program is told, or switch it off',
      body: WebhookChangeSchema,
      response: WebhookSchema,
      role: 'owner',
    },
    ({ params, body }) => changeWebhook(services, params.id ?? '', body),
  );
  api.on(
    {
      method: 'post',
      path: '/webhooks/:id/secret',
      summary: 'A new secret; the older one signs along for a day',
      response: WebhookSecretSchema,
      role: 'owner',
    },
    ({ params }) => rotateSecret(services, params.id ?? ''),
  );
  api.on({ method: 'delete', path: '/webhooks/:id', summary: 'Tell a program nothing more', response: z.array(WebhookSchema), role: 'owner' }, ({ params }) => {
    removeWebhook(services, params.id ?? '');
    return listWebhooks(services);
  });
}
