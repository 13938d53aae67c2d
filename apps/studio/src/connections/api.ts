import type { Connection } from '@ruta/core/connections';
import type { LeadSource, MadeLeadSource, NewLeadSource } from '@ruta/core/leads';
import { api } from '../base/api';

/** Outside services that can be connected. */
export type Service = 'quayside' | 'studyporch';

export const connectionsApi = api.injectEndpoints({
  endpoints: (build) => ({
    connection: build.query<Connection, Service>({ query: (service) => `/connections/${service}`, providesTags: ['Connection'] }),
    connect: build.mutation<Connection, Service>({
      query: (service) => ({ url: `/connections/${service}`, method: 'POST', body: {} }),
      invalidatesTags: ['Connection', 'Funnel', 'Today'],
    }),
    leadSources: build.query<LeadSource[], void>({ query: () => '/lead-sources', providesTags: ['Connection'] }),
    addLeadSource: build.mutation<MadeLeadSource, NewLeadSource>({
      query: (body) => ({ url: '/lead-sources', method: 'POST', body }),
      invalidatesTags: ['Connection'],
    }),
    removeLeadSource: build.mutation<LeadSource[], string>({
      query: (id) => ({ url: `/lead-sources/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Connection'],
    }),
  }),
});
