import type { PageDocument, StepPage } from '@ruta/core/page';
import { api } from '../base/api';

export const pageApi = api.injectEndpoints({
  endpoints: (build) => ({
    stepPage: build.query<StepPage, string>({ query: (id) => `/steps/${id}/page` }),
    savePage: build.mutation<{ revision: number }, { id: string; revision: number; page: PageDocument }>({
      query: ({ id, ...body }) => ({ url: `/steps/${id}/page`, method: 'PUT', body }),
      // What is wrong and what is not published may have changed; nothing else of the funnel has.
      invalidatesTags: ['FunnelState'],
    }),
  }),
});
