import type { ImportedFunnel } from '@ruta/core/bundles';
import type { FunnelDetail, FunnelState, PublicationList, StopDifferences } from '@ruta/core/checks';
import type { FunnelLook, FunnelRow, FunnelSettings, Graph, MapChange, NamedStep, OfflinePage } from '@ruta/core/funnel';
import type { ListPage } from '@ruta/core/lists';
import type { FunnelFigures } from '@ruta/core/reports';
import type { FunnelCopy, NewFunnel } from '@ruta/core/templates';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

export const funnelApi = api.injectEndpoints({
  endpoints: (build) => ({
    funnels: build.infiniteQuery<ListPage<FunnelRow>, ListAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/funnels', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Funnel'],
    }),
    funnel: build.query<FunnelDetail, string>({ query: (id) => `/funnels/${id}`, providesTags: ['Funnel'] }),
    offersToShare: build.query<Graph, string>({ query: (id) => `/funnels/${id}/offers`, providesTags: ['Funnel'] }),
    funnelState: build.query<FunnelState, string>({ query: (id) => `/funnels/${id}/state`, providesTags: ['Funnel', 'FunnelState'] }),
    differences: build.query<StopDifferences[], string>({ query: (id) => `/funnels/${id}/differences`, providesTags: ['Funnel', 'FunnelState'] }),
    funnelsWith: build.query<Array<{ id: string; name: string }>, string>({ query: (id) => `/products/${id}/funnels`, providesTags: ['Funnel'] }),
    stepsNamed: build.query<NamedStep[], string[]>({ query: (ids) => withQuery('/steps/named', { ids: ids.join(',') }), providesTags: ['Funnel'] }),
    figures: build.query<FunnelFigures, { id: string; days: number }>({ query: ({ id, days }) => `/funnels/${id}/figures?days=${days}` }),
    createFunnel: build.mutation<FunnelDetail, NewFunnel>({
      query: (body) => ({ url: '/funnels', method: 'POST', body }),
      invalidatesTags: ['Funnel', 'Today'],
    }),
    copyFunnel: build.mutation<FunnelDetail, FunnelCopy & { id: string }>({
      query: ({ id, ...body }) => ({ url: `/funnels/${id}/copy`, method: 'POST', body }),
      invalidatesTags: ['Funnel', 'Today'],
    }),
    importFunnel: build.mutation<ImportedFunnel, { content: unknown; task: string }>({
      query: ({ content: body, task }) => ({ url: '/funnels/import', method: 'POST', params: { task }, body }),
      invalidatesTags: ['Funnel', 'Today'],
    }),
    archiveFunnel: build.mutation<unknown, { id: string; archived: boolean }>({
      query: ({ id, archived }) => ({ url: `/funnels/${id}/archive`, method: 'PUT', body: { archived } }),
      invalidatesTags: ['Funnel', 'Today', 'Experiment'],
    }),
    changeFunnel: build.mutation<FunnelDetail, FunnelSettings & { id: string; begun: string }>({
      query: ({ id, begun, ...body }) => ({ url: `/funnels/${id}`, method: 'PUT', body, headers: { 'if-match': begun } }),
      invalidatesTags: ['Funnel'],
    }),
    changeFunnelLook: build.mutation<FunnelDetail, FunnelLook & { id: string; begun: string }>({
      query: ({ id, begun, ...body }) => ({ url: `/funnels/${id}/look`, method: 'PUT', body, headers: { 'if-match': begun } }),
      invalidatesTags: ['Funnel'],
    }),
    changeMap: build.mutation<FunnelDetail, MapChange & { id: string }>({
      query: ({ id, ...body }) => ({ url: `/funnels/${id}/map`, method: 'POST', body }),
      // The answer is the funnel as it is now; lists and what is wrong are looked at anew.
      invalidatesTags: ['FunnelState'],
    }),
    publications: build.query<PublicationList, { id: string; before: number | undefined }>({
      query: ({ id, before }) => withQuery(`/funnels/${id}/publications`, { before }),
      providesTags: ['Funnel'],
    }),
    draftFromPublication: build.mutation<FunnelDetail, { id: string; version: number }>({
      query: ({ id, version }) => ({ url: `/funnels/${id}/publications/${version}/draft`, method: 'POST', body: {} }),
      invalidatesTags: ['Funnel', 'FunnelState', 'StepPage', 'PageVersion'],
    }),
    setOffline: build.mutation<FunnelDetail, { id: string; page: OfflinePage | null }>({
      query: ({ id, page }) => ({ url: `/funnels/${id}/offline`, method: 'PUT', body: { page } }),
      invalidatesTags: ['Funnel', 'Today', 'Experiment'],
    }),
    publish: build.mutation<FunnelDetail, string>({
      query: (id) => ({ url: `/funnels/${id}/publish`, method: 'POST', body: {} }),
      invalidatesTags: ['Funnel', 'Today'],
    }),
  }),
});
