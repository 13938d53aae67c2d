import type { Domain, NewDomain } from '@ruta/core/domains';
import { api } from '../base/api';

export const domainsApi = api.injectEndpoints({
  endpoints: (build) => ({
    domains: build.query<Domain[], void>({ query: () => '/domains', providesTags: ['Domain'] }),
    addDomain: build.mutation<Domain, NewDomain>({ query: (body) => ({ url: '/domains', method: 'POST', body }), invalidatesTags: ['Domain', 'Funnel'] }),
    changeDomain: build.mutation<Domain, { id: string; funnelId: string | null }>({
      query: ({ id, funnelId }) => ({ url: `/domains/${id}`, method: 'PUT', body: { funnelId } }),
      invalidatesTags: ['Domain', 'Funnel'],
    }),
    checkDomain: build.mutation<Domain, string>({ query: (id) => ({ url: `/domains/${id}/check`, method: 'POST' }), invalidatesTags: ['Domain', 'Funnel'] }),
    removeDomain: build.mutation<unknown, string>({ query: (id) => ({ url: `/domains/${id}`, method: 'DELETE' }), invalidatesTags: ['Domain', 'Funnel'] }),
  }),
});
