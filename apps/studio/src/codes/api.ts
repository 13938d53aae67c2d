import type { ImportReport } from '@ruta/core/catalog';
import type { Code, CodeImport, CodeRow } from '@ruta/core/codes';
import type { ListPage } from '@ruta/core/lists';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

export const codesApi = api.injectEndpoints({
  endpoints: (build) => ({
    codes: build.infiniteQuery<ListPage<CodeRow>, ListAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/codes', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Code'],
    }),
    codeCount: build.query<{ count: number }, ListAsk>({ query: (ask) => withQuery('/codes/count', ask), providesTags: ['Code'] }),
    code: build.query<CodeRow, string>({ query: (id) => `/codes/${id}`, providesTags: ['Code'] }),
    saveCode: build.mutation<CodeRow, { id: string | null; terms: Code; begun: string | null }>({
      query: ({ id, terms, begun }) => ({
        url: id === null ? '/codes' : `/codes/${id}`,
        method: id === null ? 'POST' : 'PUT',
        body: terms,
        headers: begun === null ? {} : { 'if-match': begun },
      }),
      invalidatesTags: ['Code'],
    }),
    importCodes: build.mutation<ImportReport, CodeImport>({
      query: (body) => ({ url: '/codes/import', method: 'POST', body }),
      invalidatesTags: (result) => (result?.applied ? ['Code'] : []),
    }),
    archiveCode: build.mutation<null, string>({ query: (id) => ({ url: `/codes/${id}`, method: 'DELETE' }), invalidatesTags: ['Code'] }),
  }),
});
