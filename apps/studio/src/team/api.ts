import type { Credentials, Session, Setup } from '@ruta/core/team';
import { api } from '../base/api';

export const teamApi = api.injectEndpoints({
  endpoints: (build) => ({
    session: build.query<Session, void>({ query: () => '/session', providesTags: ['Session'] }),
    signIn: build.mutation<Session, Credentials>({ query: (body) => ({ url: '/session', method: 'POST', body }), invalidatesTags: ['Session'] }),
    setUp: build.mutation<Session, Setup>({ query: (body) => ({ url: '/setup', method: 'POST', body }), invalidatesTags: ['Session'] }),
    signOut: build.mutation<null, void>({ query: () => ({ url: '/session', method: 'DELETE' }), invalidatesTags: ['Session'] }),
  }),
});
