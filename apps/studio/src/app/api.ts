import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import type {
  Brand,
  Code,
  FileProblem,
  FunnelFigures,
  FunnelTemplate,
  Graph,
  PageDocument,
  PictureInfo,
  Product,
  ProductInput,
  Quote,
  ShippingTable,
  Shop,
  TaxTable,
} from '@ruta/core';

export interface Session {
  user: { id: string; email: string; name: string; role: 'owner' | 'editor' | 'viewer' } | null;
  needsSetup: boolean;
  csrfToken: string | null;
  teamLink: string | null;
}

export interface ShopView {
  settings: Shop;
  brand: Brand;
  taxTable: TaxTable;
  shippingTable: ShippingTable;
  siteUrl: string;
  standinsUrl: string | null;
}

/** What was sold of a product, what is left, and where it is offered. */
export interface ProductUse {
  editions: Array<{ id: string; sold: number; left: number | null }>;
  keys: { waiting: number; given: number };
  funnels: Array<{ id: string; name: string }>;
  bundles: string[];
}

export interface BulkChange {
  status?: Product['status'];
  taxClass?: Product['taxClass'];
  addTags?: string[];
  removeTags?: string[];
  addCategories?: string[];
  removeCategories?: string[];
  archived?: boolean;
}

/** What an import would do, or has done. With a problem nothing is imported. */
export interface ImportReport {
  added: number;
  changed: number;
  same?: number;
  problems: FileProblem[];
  notes?: string[];
  applied: boolean;
}

export interface CodeRow {
  id: string;
  terms: Code;
  createdAt: number;
  uses: number;
  paid: number;
}

export interface FunnelRow {
  id: string;
  name: string;
  slug: string;
  live: boolean;
  stops: Array<{ id: string; kind: Graph['steps'][number]['kind']; name: string }>;
  productName: string | null;
  figures: FunnelFigures;
}

export interface FunnelDetail {
  id: string;
  name: string;
  slug: string;
  giftId: string | null;
  graph: Graph;
  stops: string[];
  publishedAt: number | null;
  version: number;
  changes: { stepIds: string[]; settings: boolean };
  problems: Array<{ stepId: string | null; message: string; severity: 'stop' | 'warning' }>;
  addresses: Record<string, string>;
  products: Record<string, Product>;
  publications: Array<{ version: number; at: number }>;
}

export interface StepPage {
  stepId: string;
  revision: number;
  page: PageDocument;
  pictures: Record<string, PictureInfo>;
}

export interface OrderRow {
  id: string;
  /** Null for a gift. */
  number: number | null;
  paidAt: number;
  firstName: string;
  email: string;
  goods: string;
  funnelName: string;
  total: number;
  currency: string;
  mode: 'test' | 'live';
}

export interface StoryEntry {
  at: number;
  kind: string;
  detail: Record<string, unknown>;
}

export interface OrderDetail {
  id: string;
  number: number | null;
  state: 'open' | 'paid';
  mode: 'test' | 'live';
  paidAt: number | null;
  createdAt: number;
  buyer: {
    email: string;
    firstName: string;
    lastName: string;
    country: string;
    region?: string;
    taxNumber?: string;
    address?: { street: string; postcode: string; city: string };
  };
  keys: Array<{ value: string; from: string }>;
  links: Array<{ words: string; url: string; from: string }>;
  contactId: string | null;
  funnelId: string;
  funnelName: string;
  campaign: Record<string, string> | null;
  quote: Quote;
  orderUrl: string;
  charges: Array<{
    id: string;
    state: string;
    amount: number;
    provider: string;
    providerChargeId: string | null;
    cardLast4: string | null;
    failure: string | null;
    createdAt: number;
  }>;
  files: Array<{ id: string; name: string; downloads: number; maxDownloads: number | null }>;
  mails: Array<{ id: string; to: string; subject: string; sentAt: number | null; failedAt: number | null; lastError: string | null }>;
  story: StoryEntry[];
}

export interface ContactRow {
  id: string;
  email: string;
  firstName: string;
  lastName: string;
  country: string | null;
  createdAt: number;
  orders: number;
  paid: number;
}

export interface ContactDetail extends ContactRow {
  answers: Record<string, string>;
  campaign: Record<string, string> | null;
  orderList: OrderRow[];
  story: StoryEntry[];
}

export interface Today {
  currency: string;
  today: { orders: number; revenue: number; leads: number };
  yesterday: { orders: number; revenue: number; leads: number };
  usual: { orders: number; revenue: number; leads: number };
  nextSteps: Array<{ done: boolean; title: string; detail: string; link: string }>;
  needs: Array<{ title: string; detail: string; link: string }>;
}

export interface Connection {
  provider: string;
  connected: boolean;
  account: string | null;
  reachable: boolean;
}

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

const baseQuery = fetchBaseQuery({
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

/** Uploads a file. @throws Problem */
export async function upload<T>(kind: 'pictures' | 'downloads', file: File): Promise<T> {
  const body = new FormData();
  body.append('file', file);
  const response = await fetch(`/api/uploads/${kind}`, { method: 'POST', body, headers: { 'x-csrf-token': csrfToken ?? '' } }).catch(() => null);
  if (!response) throw problemOf(undefined);
  const data = (await response.json().catch(() => ({}))) as T & Partial<Problem>;
  if (!response.ok) throw { status: response.status, title: data.title ?? 'This file was refused.', errors: data.errors ?? [] } satisfies Problem;
  return data;
}

export const api = createApi({
  baseQuery,
  tagTypes: ['Session', 'Shop', 'Product', 'Funnel', 'Order', 'Contact', 'Connection', 'Today', 'Code'],
  refetchOnMountOrArgChange: true,
  endpoints: (build) => ({
    session: build.query<Session, void>({ query: () => '/session', providesTags: ['Session'] }),
    signIn: build.mutation<Session, { email: string; password: string }>({
      query: (body) => ({ url: '/session', method: 'POST', body }),
      invalidatesTags: ['Session'],
    }),
    setUp: build.mutation<Session, object>({ query: (body) => ({ url: '/setup', method: 'POST', body }), invalidatesTags: ['Session'] }),
    signOut: build.mutation<null, void>({ query: () => ({ url: '/session', method: 'DELETE' }), invalidatesTags: ['Session'] }),
    today: build.query<Today, void>({ query: () => '/today', providesTags: ['Today'] }),
    shop: build.query<ShopView, void>({ query: () => '/shop', providesTags: ['Shop'] }),
    saveShop: build.mutation<ShopView, Omit<Shop, 'currency'>>({ query: (body) => ({ url: '/shop', method: 'PUT', body }), invalidatesTags: ['Shop'] }),
    saveBrand: build.mutation<ShopView, Brand>({ query: (body) => ({ url: '/shop/brand', method: 'PUT', body }), invalidatesTags: ['Shop'] }),
    connections: build.query<Connection[], void>({ query: () => '/connections', providesTags: ['Connection'] }),
    connectQuayside: build.mutation<Connection, void>({
      query: () => ({ url: '/connections/quayside', method: 'POST', body: {} }),
      invalidatesTags: ['Connection', 'Funnel'],
    }),
    products: build.query<Product[], void>({ query: () => '/products', providesTags: ['Product'] }),
    allProducts: build.query<Product[], void>({ query: () => '/products/archived', providesTags: ['Product'] }),
    product: build.query<Product, string>({ query: (id) => `/products/${id}`, providesTags: ['Product'] }),
    createProduct: build.mutation<Product, ProductInput>({
      query: (body) => ({ url: '/products', method: 'POST', body }),
      invalidatesTags: ['Product', 'Today'],
    }),
    updateProduct: build.mutation<Product, { id: string; input: ProductInput }>({
      query: ({ id, input }) => ({ url: `/products/${id}`, method: 'PUT', body: input }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    productUse: build.query<ProductUse, string>({ query: (id) => `/products/${id}/use`, providesTags: ['Product'] }),
    duplicateProduct: build.mutation<Product, string>({
      query: (id) => ({ url: `/products/${id}/duplicate`, method: 'POST', body: {} }),
      invalidatesTags: ['Product'],
    }),
    changeProducts: build.mutation<{ changed: number }, { ids: string[]; change: BulkChange }>({
      query: (body) => ({ url: '/products/bulk', method: 'POST', body }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    addKeys: build.mutation<{ added: number; repeated: number }, { id: string; keys: string }>({
      query: ({ id, keys }) => ({ url: `/products/${id}/keys`, method: 'POST', body: { keys } }),
      invalidatesTags: ['Product'],
    }),
    codes: build.query<CodeRow[], void>({ query: () => '/codes', providesTags: ['Code'] }),
    saveCode: build.mutation<CodeRow, { id: string | null; terms: Code }>({
      query: ({ id, terms }) => ({ url: id === null ? '/codes' : `/codes/${id}`, method: id === null ? 'POST' : 'PUT', body: terms }),
      invalidatesTags: ['Code'],
    }),
    importProducts: build.mutation<ImportReport, { format: 'csv' | 'json'; text: string; apply: boolean }>({
      query: (body) => ({ url: '/products/import', method: 'POST', body }),
      invalidatesTags: (result) => (result?.applied ? ['Product', 'Funnel'] : []),
    }),
    importCodes: build.mutation<ImportReport, { text: string; apply: boolean }>({
      query: (body) => ({ url: '/codes/import', method: 'POST', body }),
      invalidatesTags: (result) => (result?.applied ? ['Code'] : []),
    }),
    archiveCode: build.mutation<null, string>({ query: (id) => ({ url: `/codes/${id}`, method: 'DELETE' }), invalidatesTags: ['Code'] }),
    saveTaxTable: build.mutation<ShopView, TaxTable>({
      query: (taxTable) => ({ url: '/shop/tax-table', method: 'PUT', body: { taxTable } }),
      invalidatesTags: ['Shop'],
    }),
    saveShippingTable: build.mutation<ShopView, ShippingTable>({
      query: (shippingTable) => ({ url: '/shop/shipping-table', method: 'PUT', body: { shippingTable } }),
      invalidatesTags: ['Shop', 'Funnel'],
    }),
    connectStudyporch: build.mutation<Connection, void>({
      query: () => ({ url: '/connections/studyporch', method: 'POST', body: {} }),
      invalidatesTags: ['Connection'],
    }),
    setProductFiles: build.mutation<Product, { id: string; files: Array<{ id: string; only: string | null }> }>({
      query: ({ id, files }) => ({ url: `/products/${id}/files`, method: 'PUT', body: { files } }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    archiveProduct: build.mutation<Product, { id: string; archived: boolean }>({
      query: ({ id, archived }) => ({ url: `/products/${id}/archived`, method: 'PUT', body: { archived } }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    funnels: build.query<FunnelRow[], void>({ query: () => '/funnels', providesTags: ['Funnel'] }),
    funnel: build.query<FunnelDetail, string>({ query: (id) => `/funnels/${id}`, providesTags: ['Funnel'] }),
    figures: build.query<FunnelFigures, { id: string; days: number }>({ query: ({ id, days }) => `/funnels/${id}/figures?days=${days}` }),
    createFunnel: build.mutation<FunnelDetail, { name: string; template: FunnelTemplate; productId: string; giftId?: string }>({
      query: (body) => ({ url: '/funnels', method: 'POST', body }),
      invalidatesTags: ['Funnel', 'Today'],
    }),
    changeFunnel: build.mutation<FunnelDetail, { id: string; name: string; slug: string }>({
      query: ({ id, ...body }) => ({ url: `/funnels/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Funnel'],
    }),
    changeStep: build.mutation<FunnelDetail, { id: string; name: string; slug: string; productId: string | null }>({
      query: ({ id, ...body }) => ({ url: `/steps/${id}`, method: 'PUT', body }),
      invalidatesTags: ['Funnel'],
    }),
    publish: build.mutation<FunnelDetail, string>({
      query: (id) => ({ url: `/funnels/${id}/publish`, method: 'POST', body: {} }),
      invalidatesTags: ['Funnel', 'Today'],
    }),
    stepPage: build.query<StepPage, string>({ query: (id) => `/steps/${id}/page` }),
    savePage: build.mutation<{ revision: number }, { id: string; revision: number; page: PageDocument }>({
      query: ({ id, ...body }) => ({ url: `/steps/${id}/page`, method: 'PUT', body }),
      invalidatesTags: ['Funnel'],
    }),
    orders: build.query<OrderRow[], void>({ query: () => '/orders', providesTags: ['Order'] }),
    order: build.query<OrderDetail, string>({ query: (id) => `/orders/${id}`, providesTags: ['Order'] }),
    sendAgain: build.mutation<{ queued: boolean }, string>({
      query: (id) => ({ url: `/outbox/${id}/again`, method: 'POST', body: {} }),
      invalidatesTags: ['Order'],
    }),
    contacts: build.query<ContactRow[], void>({ query: () => '/contacts', providesTags: ['Contact'] }),
    contact: build.query<ContactDetail, string>({ query: (id) => `/contacts/${id}`, providesTags: ['Contact'] }),
  }),
});
