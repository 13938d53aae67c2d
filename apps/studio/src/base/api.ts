import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import { sessionEnded } from './session';

/** A refusal as the server words it: a title, and what is wrong at which field. */
export interface Problem {
  status: number;
  title: string;
  errors: Array<{ path: string; message: string }>;
}

/** The secret that changing requests repeat; known once somebody is signed in. */
let csrfToken: string | null = null;
export const rememberToken = (token: string | null) => {
  csrfToken = token;
};
export const currentToken = () => csrfToken;

/** Words for whatever a request failed with. */
export function problemOf(error: unknown): Problem {
  const failure = error as { status?: number | string; data?: Partial<Problem> } | undefined;
  if (typeof failure?.status === 'number') {
    return { status: failure.status, title: failure.data?.title ?? 'The server refused this.', errors: failure.data?.errors ?? [] };
  }
  return { status: 0, title: 'The server cannot be reached. Check that it is running; what you typed is still here.', errors: [] };
}

const ask = fetchBaseQuery({
  baseUrl: '/api',
  prepareHeaders: (headers) => {
    if (csrfToken) headers.set('x-csrf-token', csrfToken);
    return headers;
  },
  responseHandler: async (response) => {
    const text = await response.text();
    return text === '' ? null : JSON.parse(text);
  },
});

/** Asks for the sign-in's present secret: another window may have signed in anew. @returns whether it is another one */
export async function renewToken(): Promise<boolean> {
  const response = await fetch('/api/session').catch(() => null);
  const session = response?.ok ? ((await response.json()) as { csrfToken: string | null }) : null;
  if (!session?.csrfToken || session.csrfToken === csrfToken) return false;
  csrfToken = session.csrfToken;
  return true;
}

/**
 * Asks the server. A sign-in that has ended is told to the whole window, which asks for a new one in place, so that
 * nothing typed is lost; one that was renewed elsewhere is taken up unseen.
 */
const baseQuery: typeof ask = async (asked, queryApi, extra) => {
  const answer = await ask(asked, queryApi, extra);
  if (answer.error?.status === 403 && (await renewToken())) return ask(asked, queryApi, extra);
  const url = typeof asked === 'string' ? asked : asked.url;
  if (answer.error?.status === 401 && url !== '/session') queryApi.dispatch(sessionEnded());
  return answer;
};

/** The server, asked. Each area adds its own requests in its `api.ts`. */
export const api = createApi({
  baseQuery,
  tagTypes: [
    'Session',
    'Backup',
    'Shop',
    'Product',
    'Funnel',
    'FunnelState',
    'StepPage',
    'Order',
    'Contact',
    'Connection',
    'Today',
    'Code',
    'PageVersion',
    'OwnSection',
    'Webhook',
    'Message',
    'ConversionRule',
    'Report',
    'Scenario',
    'Experiment',
    'Account',
    'Consent',
    'Partner',
    'Domain',
  ],
  refetchOnMountOrArgChange: true,
  endpoints: () => ({}),
});

/** An address with what is asked; what is missing or empty is left out. */
export function withQuery(path: string, asked: object): string {
  const query = new URLSearchParams(
    Object.entries(asked).flatMap(([name, value]) => (value === undefined || value === null || value === '' ? [] : [[name, String(value)]])),
  );
  return query.size > 0 ? `${path}?${query}` : path;
}
