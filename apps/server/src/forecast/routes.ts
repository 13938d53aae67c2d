import { ForecastBasisQuerySchema, ForecastBasisSchema, NewScenarioSchema, SavedScenariosSchema } from '@ruta/core/forecast';
import type { Api } from '../base/api';
import { looking } from '../tracking/looking';
import type { Tracked } from '../tracking/recorder';
import { keepScenario, removeScenario } from './scenarios';

export function forecastRoutes(api: Api, services: Tracked): void {
  const look = looking(services);
  api.on(
    {
      method: 'get',
      path: '/funnels/:id/forecast-basis',
      summary: 'A funnel as it went in a period, ready to be forecast',
      query: ForecastBasisQuerySchema,
      response: ForecastBasisSchema,
    },
    ({ params, query }) => look('forecastBasis', { funnelId: params.id ?? '', period: query }),
  );
  api.on({ method: 'get', path: '/funnels/:id/scenarios', summary: 'What was thought, and what happened', response: SavedScenariosSchema }, ({ params }) =>
    look('scenarios', params.id ?? ''),
  );
  api.on(
    { method: 'post', path: '/funnels/:id/scenarios', summary: 'Keep a scenario', body: NewScenarioSchema, response: SavedScenariosSchema },
    ({ params, body }) => keepScenario(services, params.id ?? '', body),
  );
  api.on({ method: 'delete', path: '/funnels/:id/scenarios/:scenarioId', summary: 'Remove a scenario', response: SavedScenariosSchema }, ({ params }) =>
    removeScenario(services, params.id ?? '', params.scenarioId ?? ''),
  );
}
