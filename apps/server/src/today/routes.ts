import type { Api } from '../http/api';
import type { Services } from '../services';
import { TodaySchema, todayOf } from './service';

export function todayRoutes(api: Api, services: Services): void {
  api.on({ method: 'get', path: '/today', summary: 'What needs a person, and yesterday against the usual', response: TodaySchema }, () => todayOf(services));
}
