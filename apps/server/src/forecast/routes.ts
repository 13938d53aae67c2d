import { ForecastBasisQuerySchema, ForecastBasisSchema } from '@ruta/core/forecast';
import type { Api } from '../base/api';
import type { Tracked } from '../tracking/recorder';
import { forecastBasis } from './basis';

export function forecastRoutes(api: Api, services: Tracked): void {
  api.on(
    {
      method: 'get',
      path: '/funnels/:id/forecast-basis',
      summary: 'A funnel as it went in a period, ready to be forecast',
      query: ForecastBasisQuerySchema,
      response: ForecastBasisSchema,
    },
    ({ params, query }) => forecastBasis(services, params.id ?? '', query),
  );
}
