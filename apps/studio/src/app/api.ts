import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import type {
  Brand,
  FunnelFigures,
  FunnelTemplate,
  Graph,
  PageDocument,
  PictureInfo,
  Price,
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

export interface ShownStudioProduct {
  id: string;
  name: string;
  description: string;
  picture: PictureInfo | null;
  current: number;
  regular: number;
  onSale: boolean;
  price: Price;
  kind: Product['kind'];
  taxClass: Product['taxClass'];
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
  products: Record<string, ShownStudioProduct>;
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
  buyer: { email: string; firstName: string; lastName: string; country: string };
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
  files: Array<{ id: string; name: string; downloads: number; maxDownloads: number }>;
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
  tagTypes: ['Session', 'Shop', 'Product', 'Funnel', 'Order', 'Contact', 'Connection', 'Today'],
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
    product: build.query<Product, string>({ query: (id) => `/products/${id}`, providesTags: ['Product'] }),
    createProduct: build.mutation<Product, ProductInput>({
      query: (body) => ({ url: '/products', method: 'POST', body }),
      invalidatesTags: ['Product', 'Today'],
    }),
    updateProduct: build.mutation<Product, { id: string; input: ProductInput }>({
      query: ({ id, input }) => ({ url: `/products/${id}`, method: 'PUT', body: input }),
      invalidatesTags: ['Product', 'Funnel'],
    }),
    setProductFiles: build.mutation<Product, { id: string; fileIds: string[] }>({
      query: ({ id, fileIds }) => ({ url: `/products/${id}/files`, method: 'PUT', body: { fileIds } }),
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
