import type { OrderDelivery } from '@ruta/core/delivery';
import type { ListPage } from '@ruta/core/lists';
import type { OrderAddress, OrderDetail, OrderFilter, OrderNote, OrderRow, RefundRequest, RefundView } from '@ruta/core/orders';
import type { Upcoming } from '@ruta/core/plans';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

/** What the list of orders is asked for. */
export type OrderAsk = ListAsk & Partial<Record<keyof OrderFilter, string>>;

export const ordersApi = api.injectEndpoints({
  endpoints: (build) => ({
    orders: build.infiniteQuery<ListPage<OrderRow>, OrderAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/orders', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Order'],
    }),
    orderCount: build.query<{ count: number }, OrderAsk>({ query: (ask) => withQuery('/orders/count', ask), providesTags: ['Order'] }),
    order: build.query<OrderDetail, string>({ query: (id) => `/orders/${id}`, providesTags: ['Order'] }),
    orderDelivery: build.query<OrderDelivery, string>({ query: (id) => `/orders/${id}/delivery`, providesTags: ['Order'] }),
    upcoming: build.query<Upcoming, string>({ query: (id) => `/orders/${id}/upcoming`, providesTags: ['Order'] }),
    giveBack: build.mutation<RefundView[], { orderId: string; request: RefundRequest }>({
      query: ({ orderId, request }) => ({ url: `/orders/${orderId}/refunds`, method: 'POST', body: request }),
      invalidatesTags: ['Order', 'Today', 'Contact'],
    }),
    doAgain: build.mutation<{ done: boolean }, { orderId: string; troubleId: string }>({
      query: ({ orderId, troubleId }) => ({ url: `/orders/${orderId}/troubles/${troubleId}/again`, method: 'POST', body: {} }),
      invalidatesTags: ['Order', 'Today'],
    }),
    settleTaxNumber: build.mutation<{ settled: boolean }, string>({
      query: (orderId) => ({ url: `/orders/${orderId}/tax-number/settled`, method: 'POST', body: {} }),
      invalidatesTags: ['Order', 'Today'],
    }),
    sendReceipt: build.mutation<{ queued: boolean }, string>({
      query: (orderId) => ({ url: `/orders/${orderId}/receipt`, method: 'POST', body: {} }),
      invalidatesTags: ['Order'],
    }),
    correctAddress: build.mutation<OrderAddress, { orderId: string; address: OrderAddress }>({
      query: ({ orderId, address }) => ({ url: `/orders/${orderId}/address`, method: 'PUT', body: address }),
      invalidatesTags: ['Order'],
    }),
    addNote: build.mutation<OrderNote[], { orderId: string; text: string }>({
      query: ({ orderId, text }) => ({ url: `/orders/${orderId}/notes`, method: 'POST', body: { text } }),
      invalidatesTags: ['Order'],
    }),
    removeNote: build.mutation<OrderNote[], { orderId: string; id: string }>({
      query: ({ orderId, id }) => ({ url: `/orders/${orderId}/notes/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Order'],
    }),
    sendAgain: build.mutation<{ queued: boolean }, string>({
      query: (id) => ({ url: `/outbox/${id}/again`, method: 'POST', body: {} }),
      invalidatesTags: ['Order', 'Today'],
    }),
  }),
});
