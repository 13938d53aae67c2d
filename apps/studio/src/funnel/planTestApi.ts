import type { NewExperiment } from '@ruta/core/experiments';
import { api } from '../base/api';

/** A split test is begun at a stop, from wherever one looks at it. */
export const planTestApi = api.injectEndpoints({
  endpoints: (build) => ({
    planTest: build.mutation<{ id: string; armId: string }, NewExperiment>({
      query: (body) => ({ url: '/experiments', method: 'POST', body }),
      invalidatesTags: ['Experiment', 'Funnel'],
    }),
  }),
});
