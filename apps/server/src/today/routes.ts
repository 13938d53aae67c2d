import { TodaySchema } from '@ruta/core/today';
import type { Api } from '../base/api';
import { looking } from '../tracking/looking';
import type { Tracked } from '../tracking/recorder';
import type { TodayFigures } from './figures';
import { todayOf } from './service';

export function todayRoutes(api: Api, services: Tracked): void {
  api.on({ method: 'get', path: '/today', summary: 'What needs a person, and yesterday against the usual', response: TodaySchema }, async () =>
    todayOf(services, await looking(services)<TodayFigures>('today', null)),
  );
}
