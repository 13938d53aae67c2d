import { MessageListQuerySchema, MessagePageSchema } from '@ruta/core/messages';
import { z } from 'zod';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { listMessages, sendMessageAgain } from './store';

/** What programs outside were told, and telling them once more. */
export function messageRoutes(api: Api, services: Services): void {
  api.on(
    {
      method: 'get',
      path: '/messages/to/:id',
      summary: 'What a receiver outside was told',
      query: MessageListQuerySchema,
      response: MessagePageSchema,
    },
    ({ params, query }) => listMessages(services.db, params.id ?? '', query),
  );
  api.on({ method: 'post', path: '/messages/:id/again', summary: 'Tell it once more', response: z.object({ queued: z.boolean() }) }, ({ params }) => {
    sendMessageAgain(services, params.id ?? '');
    return { queued: true };
  });
}
