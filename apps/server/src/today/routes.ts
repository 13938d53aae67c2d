import { TodaySchema } from '@ruta/core/today';
import type { Api } from '../base/api';
import type { Tracked } from '../tracking/recorder';
import { todayOf } from './service';

export function todayRoutes(api: Api, services: Tracked): void {
  api.on({ method: 'get', path: '/today', summary: 'What needs a person, and yesterday against the usual', response: TodaySchema }, () => todayOf(services));
}
