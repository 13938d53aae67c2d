import type { ShippingTable, ShopView, TaxTable } from '@ruta/core/pricing';
import type { Brand, ConsentProofs, GoLive, Mode, Shop } from '@ruta/core/shop';
import { api } from '../base/api';

/** A change with the revision it was begun from, so that one of another window is not overwritten unseen. */
interface Begun<T> {
  begun: string;
  value: T;
}

export const shopApi = api.injectEndpoints({
  endpoints: (build) => ({
    shop: build.query<ShopView, void>({ query: () => '/shop', providesTags: ['Shop'] }),
    saveShop: build.mutation<ShopView, Begun<Omit<Shop, 'currency' | 'mode'>>>({
      query: ({ begun, value }) => ({ url: '/shop', method: 'PUT', body: value, headers: { 'if-match': begun } }),
      invalidatesTags: ['Shop'],
    }),
    goLive: build.query<GoLive, void>({ query: () => '/shop/go-live', providesTags: ['Shop', 'Connection', 'Order', 'Funnel', 'Product'] }),
    changeMode: build.mutation<GoLive, { mode: Mode; anyway: boolean }>({
      query: (body) => ({ url: '/shop/mode', method: 'POST', body }),
      invalidatesTags: ['Shop', 'Funnel', 'Today'],
    }),
    consents: build.query<ConsentProofs, void>({ query: () => '/consents', providesTags: ['Consent'] }),
    saveBrand: build.mutation<ShopView, Begun<Brand>>({
      query: ({ begun, value }) => ({ url: '/shop/brand', method: 'PUT', body: value, headers: { 'if-match': begun } }),
      invalidatesTags: ['Shop'],
    }),
    saveTaxTable: build.mutation<ShopView, Begun<TaxTable>>({
      query: ({ begun, value }) => ({ url: '/shop/tax-table', method: 'PUT', body: { taxTable: value }, headers: { 'if-match': begun } }),
      invalidatesTags: ['Shop'],
    }),
    saveShippingTable: build.mutation<ShopView, Begun<ShippingTable>>({
      query: ({ begun, value }) => ({ url: '/shop/shipping-table', method: 'PUT', body: { shippingTable: value }, headers: { 'if-match': begun } }),
      invalidatesTags: ['Shop', 'Funnel'],
    }),
  }),
});
