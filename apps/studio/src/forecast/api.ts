import type { ForecastBasis, ForecastBasisQuery } from '@ruta/core/forecast';
import { api, withQuery } from '../base/api';

export const forecastApi = api.injectEndpoints({
  endpoints: (build) => ({
    forecastBasis: build.query<ForecastBasis, ForecastBasisQuery & { funnelId: string }>({
      query: ({ funnelId, ...days }) => withQuery(`/funnels/${funnelId}/forecast-basis`, days),
      providesTags: ['Report', 'Funnel'],
    }),
  }),
});
