import type {
  Bulk,
  Changed,
  ImportReport,
  KeysAdded,
  LiveUse,
  Product,
  ProductImport,
  ProductInput,
  ProductKind,
  ProductRow,
  ProductStatus,
  ProductUse,
} from '@ruta/core/catalog';
import type { ListPage } from '@ruta/core/lists';
import { api, withQuery } from '../base/api';
import { type ListAsk, PAGING } from '../lists/list';

/** What the list of products is asked for. */
export interface ProductAsk extends ListAsk {
  archived?: boolean;
  kind?: ProductKind;
  status?: ProductStatus;
  category?: string;
  tag?: string;
  free?: boolean;
}

const one = (id: string) => [{ type: 'Product' as const, id }, 'Product' as const];

export const catalogApi = api.injectEndpoints({
  endpoints: (build) => ({
    products: build.infiniteQuery<ListPage<ProductRow>, ProductAsk, string | null>({
      query: ({ queryArg, pageParam }) => withQuery('/products', { ...queryArg, after: pageParam }),
      infiniteQueryOptions: PAGING,
      providesTags: ['Product'],
    }),
    productCount: build.query<{ count: number }, ProductAsk>({ query: (ask) => withQuery('/products/count', ask), providesTags: ['Product'] }),
    productWords: build.query<{ categories: string[]; tags: string[] }, void>({ query: () => '/products/words', providesTags: ['Product'] }),
    product: build.query<Product, string>({ query: (id) => `/products/${id}`, providesTags: (_result, _error, id) => one(id) }),
    productsNamed: build.query<Product[], string[]>({ query: (ids) => withQuery('/products/named', { ids: ids.join(',') }), providesTags: ['Product'] }),
    liveUse: build.query<LiveUse[], string[]>({
      query: (ids) => ({ url: '/products/live-use', method: 'POST', body: { ids } }),
      providesTags: ['Product', 'Funnel'],
    }),
    productUse: build.query<ProductUse, string>({ query: (id) => `/products/${id}/use`, providesTags: ['Product'] }),
    createProduct: build.mutation<Product, ProductInput>({
      query: (body) => ({ url: '/products', method: 'POST', body }),
      invalidatesTags: ['Product', 'Today'],
    }),
    updateProduct: build.mutation<Product, { id: string; input: ProductInput; begun: string }>({
      query: ({ id, input, begun }) => ({ url: `/products/${id}`, method: 'PUT', body: input, headers: { 'if-match': begun } }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    duplicateProduct: build.mutation<Product, string>({
      query: (id) => ({ url: `/products/${id}/duplicate`, method: 'POST', body: {} }),
      invalidatesTags: ['Product'],
    }),
    changeProducts: build.mutation<Changed, Bulk>({
      query: (body) => ({ url: '/products/bulk', method: 'POST', body }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    undoChange: build.mutation<Changed, Bulk[]>({
      query: (undo) => ({ url: '/products/bulk/undo', method: 'POST', body: { undo } }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    productIds: build.query<{ ids: string[] }, ProductAsk>({ query: (ask) => withQuery('/products/ids', ask), providesTags: ['Product'] }),
    addKeys: build.mutation<KeysAdded, { id: string; keys: string; task: string }>({
      query: ({ id, ...body }) => ({ url: `/products/${id}/keys`, method: 'POST', body }),
      invalidatesTags: ['Product'],
    }),
    importProducts: build.mutation<ImportReport, ProductImport>({
      query: (body) => ({ url: '/products/import', method: 'POST', body }),
      invalidatesTags: (result) => (result?.applied ? ['Product', 'Funnel'] : []),
    }),
    setProductFiles: build.mutation<Product, { id: string; files: Array<{ id: string; only: string | null }> }>({
      query: ({ id, files }) => ({ url: `/products/${id}/files`, method: 'PUT', body: { files } }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    archiveProduct: build.mutation<Product, { id: string; archived: boolean }>({
      query: ({ id, archived }) => ({ url: `/products/${id}/archived`, method: 'PUT', body: { archived } }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
  }),
});
