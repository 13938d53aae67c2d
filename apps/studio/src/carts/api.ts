import type { AbandonedCart, CartCount, CartFilter } from '@ruta/core/checkout';
import type { ListPage } from '@ruta/core/lists';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

type CartAsk = ListAsk & CartFilter;

export const cartsApi = api.injectEndpoints({
  endpoints: (build) => ({
    carts: build.infiniteQuery<ListPage<AbandonedCart>, CartAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/carts', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Order'],
    }),
    cartCount: build.query<CartCount, CartAsk>({ query: (ask) => withQuery('/carts/count', ask), providesTags: ['Order'] }),
  }),
});
