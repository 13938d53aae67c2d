import type { ForecastBasis, ForecastBasisQuery, NewScenario, SavedScenario } from '@ruta/core/forecast';
import { api, withQuery } from '../base/api';

export const forecastApi = api.injectEndpoints({
  endpoints: (build) => ({
    forecastBasis: build.query<ForecastBasis, ForecastBasisQuery & { funnelId: string }>({
      query: ({ funnelId, ...days }) => withQuery(`/funnels/${funnelId}/forecast-basis`, days),
      providesTags: ['Report', 'Funnel'],
    }),
    scenarios: build.query<SavedScenario[], string>({ query: (funnelId) => `/funnels/${funnelId}/scenarios`, providesTags: ['Scenario', 'Report'] }),
    keepScenario: build.mutation<SavedScenario[], { funnelId: string; kept: NewScenario }>({
      query: ({ funnelId, kept }) => ({ url: `/funnels/${funnelId}/scenarios`, method: 'POST', body: kept }),
      invalidatesTags: ['Scenario'],
    }),
    removeScenario: build.mutation<SavedScenario[], { funnelId: string; id: string }>({
      query: ({ funnelId, id }) => ({ url: `/funnels/${funnelId}/scenarios/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Scenario'],
    }),
  }),
});
