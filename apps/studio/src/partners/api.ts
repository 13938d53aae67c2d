import type { ListPage } from '@ruta/core/lists';
import type { OrderPartner, Partner, PartnerRow, Payouts, Program, Statement } from '@ruta/core/partners';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

export interface ProgramView {
  program: Program;
  revision: string;
}

export const partnersApi = api.injectEndpoints({
  endpoints: (build) => ({
    partners: build.infiniteQuery<ListPage<PartnerRow>, ListAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/partners', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Partner'],
    }),
    partnerCount: build.query<{ count: number }, ListAsk>({ query: (ask) => withQuery('/partners/count', ask), providesTags: ['Partner'] }),
    statement: build.query<Statement, string>({ query: (id) => `/partners/${id}`, providesTags: ['Partner'] }),
    savePartner: build.mutation<PartnerRow, { id: string | null; partner: Partner; begun: string | null }>({
      query: ({ id, partner, begun }) => ({
        url: id === null ? '/partners' : `/partners/${id}`,
        method: id === null ? 'POST' : 'PUT',
        body: partner,
        headers: begun === null ? {} : { 'if-match': begun },
      }),
      invalidatesTags: ['Partner'],
    }),
    program: build.query<ProgramView, void>({ query: () => '/partners/program', providesTags: ['Partner'] }),
    saveProgram: build.mutation<ProgramView, { program: Program; begun: string }>({
      query: ({ program, begun }) => ({ url: '/partners/program', method: 'PUT', body: program, headers: { 'if-match': begun } }),
      invalidatesTags: ['Partner'],
    }),
    payouts: build.query<Payouts, void>({ query: () => '/partners/payouts', providesTags: ['Partner'] }),
    payOut: build.mutation<{ id: string }, { total: number }>({
      query: (body) => ({ url: '/partners/payouts', method: 'POST', body }),
      invalidatesTags: ['Partner'],
    }),
    orderPartner: build.query<OrderPartner, string>({ query: (id) => `/orders/${id}/partner`, providesTags: ['Partner', 'Order'] }),
  }),
});
