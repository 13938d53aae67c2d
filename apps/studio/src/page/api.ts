import type { ImportedPage } from '@ruta/core/bundles';
import type { OwnSection, PageDocument, PageVersion, PageVersionDetail, StepPage } from '@ruta/core/page';
import { api } from '../base/api';

export const pageApi = api.injectEndpoints({
  endpoints: (build) => ({
    stepPage: build.query<StepPage, string>({ query: (id) => `/steps/${id}/page`, providesTags: ['StepPage'] }),
    pageVersions: build.query<PageVersion[], string>({ query: (id) => `/steps/${id}/versions`, providesTags: ['PageVersion', 'Funnel'] }),
    pageVersion: build.query<PageVersionDetail, { stepId: string; id: string }>({ query: ({ stepId, id }) => `/steps/${stepId}/versions/${id}` }),
    keepVersion: build.mutation<PageVersion[], { stepId: string; name: string; page: PageDocument }>({
      query: ({ stepId, ...body }) => ({ url: `/steps/${stepId}/versions`, method: 'POST', body }),
      invalidatesTags: ['PageVersion'],
    }),
    forgetVersion: build.mutation<PageVersion[], { stepId: string; id: string }>({
      query: ({ stepId, id }) => ({ url: `/steps/${stepId}/versions/${id}`, method: 'DELETE' }),
      invalidatesTags: ['PageVersion'],
    }),
    ownSections: build.query<OwnSection[], void>({ query: () => '/own-sections', providesTags: ['OwnSection'] }),
    keepOwnSection: build.mutation<OwnSection[], Pick<OwnSection, 'id' | 'name' | 'section'>>({
      query: (body) => ({ url: '/own-sections', method: 'POST', body }),
      invalidatesTags: ['OwnSection'],
    }),
    removeOwnSection: build.mutation<OwnSection[], string>({
      query: (id) => ({ url: `/own-sections/${id}`, method: 'DELETE' }),
      invalidatesTags: ['OwnSection'],
    }),
    importPage: build.mutation<ImportedPage, { content: unknown; task: string }>({
      query: ({ content: body, task }) => ({ url: '/pages/import', method: 'POST', params: { task }, body }),
    }),
    savePage: build.mutation<{ revision: number }, { id: string; revision: number; page: PageDocument }>({
      query: ({ id, ...body }) => ({ url: `/steps/${id}/page`, method: 'PUT', body }),
      // What is wrong and what is not published may have changed; nothing else of the funnel has.
      invalidatesTags: ['FunnelState'],
    }),
  }),
});
