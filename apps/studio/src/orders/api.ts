import type { OrderDelivery } from '@ruta/core/delivery';
import type { ListPage } from '@ruta/core/lists';
import type { OrderDetail, OrderRow, RefundRequest, RefundView } from '@ruta/core/orders';
import type { Upcoming } from '@ruta/core/plans';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

/** What the list of orders is asked for. */
export interface OrderAsk extends ListAsk {
  contactId?: string;
}

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
    sendAgain: build.mutation<{ queued: boolean }, string>({
      query: (id) => ({ url: `/outbox/${id}/again`, method: 'POST', body: {} }),
      invalidatesTags: ['Order', 'Today'],
    }),
  }),
});
