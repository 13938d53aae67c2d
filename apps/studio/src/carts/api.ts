import type { LeftCart } from '@ruta/core/checkout';
import type { ListPage } from '@ruta/core/lists';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

type CartAsk = ListAsk & { since?: string };

export const cartsApi = api.injectEndpoints({
  endpoints: (build) => ({
    carts: build.infiniteQuery<ListPage<LeftCart>, CartAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/carts', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Order'],
    }),
    cartCount: build.query<{ count: number }, CartAsk>({ query: (ask) => withQuery('/carts/count', ask), providesTags: ['Order'] }),
  }),
});
