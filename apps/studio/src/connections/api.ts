import type { Connection } from '@ruta/core/connections';
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
  }),
});
