import { GoLiveSchema, ModeChangeSchema } from '@ruta/core/shop';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { changeMode, goLiveOf } from './goLive';

/** Test or live mode of the shop, and what it needs to go live. */
export function goLiveRoutes(api: Api, services: Services): void {
  api.on({ method: 'get', path: '/shop/go-live', summary: 'The mode of the shop, and what it needs to go live', response: GoLiveSchema }, () =>
    goLiveOf(services),
  );
  api.on(
    { method: 'post', path: '/shop/mode', summary: 'Go live, or switch to test mode', body: ModeChangeSchema, response: GoLiveSchema, role: 'owner' },
    ({ body }) => changeMode(services, body),
  );
}
