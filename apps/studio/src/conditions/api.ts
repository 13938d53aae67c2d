import type { Condition, Matches } from '@ruta/core/conditions';
import { api } from '../base/api';

export const conditionsApi = api.injectEndpoints({
  endpoints: (build) => ({
    matches: build.query<Matches, Condition>({
      query: (condition) => ({ url: '/conditions/matches', method: 'POST', body: { condition } }),
      keepUnusedDataFor: 300,
    }),
  }),
});
