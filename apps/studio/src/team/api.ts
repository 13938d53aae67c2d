import type { Credentials, NewTwoFactor, Session, Setup, SignedIn, TwoFactor } from '@ruta/core/team';
import { api, rememberToken } from '../base/api';
import { sessionRenewed } from '../base/session';

/** What screens show and may have failed to read while nobody was signed in. */
const READ = ['Shop', 'Product', 'Funnel', 'FunnelState', 'Order', 'Contact', 'Connection', 'Today', 'Code'] as const;

export const teamApi = api.injectEndpoints({
  endpoints: (build) => ({
    session: build.query<Session, void>({ query: () => '/session', providesTags: ['Session'] }),
    signIn: build.mutation<Session, Credentials>({
      query: (body) => ({ url: '/session', method: 'POST', body }),
      invalidatesTags: ['Session'],
      async onQueryStarted(_credentials, { dispatch, queryFulfilled }) {
        const { data } = await queryFulfilled;
        // What waits to be sent repeats the new secret at once; what could not be read meanwhile is asked for anew.
        rememberToken(data.csrfToken);
        dispatch(sessionRenewed());
        dispatch(api.util.invalidateTags([...READ]));
      },
    }),
    setUp: build.mutation<Session, Setup>({ query: (body) => ({ url: '/setup', method: 'POST', body }), invalidatesTags: ['Session'] }),
    forgotten: build.mutation<unknown, { email: string }>({ query: (body) => ({ url: '/session/forgotten', method: 'POST', body }) }),
    reset: build.mutation<unknown, { token: string; password: string }>({ query: (body) => ({ url: '/session/reset', method: 'POST', body }) }),
    signIns: build.query<SignedIn[], void>({ query: () => '/account/sessions', providesTags: ['Account'] }),
    endSignIn: build.mutation<SignedIn[], string>({ query: (id) => ({ url: `/account/sessions/${id}`, method: 'DELETE' }), invalidatesTags: ['Account'] }),
    changePassword: build.mutation<SignedIn[], { current: string; password: string }>({
      query: (body) => ({ url: '/account/password', method: 'PUT', body }),
      invalidatesTags: ['Account'],
    }),
    twoFactor: build.query<TwoFactor, void>({ query: () => '/account/two-factor', providesTags: ['Account'] }),
    beginTwoFactor: build.mutation<NewTwoFactor, void>({ query: () => ({ url: '/account/two-factor/begin', method: 'POST' }) }),
    turnTwoFactorOn: build.mutation<{ recoveryCodes: string[] }, { password: string; code: string }>({
      query: (body) => ({ url: '/account/two-factor', method: 'POST', body }),
      invalidatesTags: ['Account'],
    }),
    turnTwoFactorOff: build.mutation<TwoFactor, { password: string }>({
      query: (body) => ({ url: '/account/two-factor/off', method: 'PUT', body }),
      invalidatesTags: ['Account'],
    }),
    signOut: build.mutation<null, void>({ query: () => ({ url: '/session', method: 'DELETE' }) }),
  }),
});
