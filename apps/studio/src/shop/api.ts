import type { ShippingTable, ShopView, TaxTable } from '@ruta/core/pricing';
import type { Brand, Shop } from '@ruta/core/shop';
import { api } from '../base/api';

export const shopApi = api.injectEndpoints({
  endpoints: (build) => ({
    shop: build.query<ShopView, void>({ query: () => '/shop', providesTags: ['Shop'] }),
    saveShop: build.mutation<ShopView, Omit<Shop, 'currency'>>({ query: (body) => ({ url: '/shop', method: 'PUT', body }), invalidatesTags: ['Shop'] }),
    saveBrand: build.mutation<ShopView, Brand>({ query: (body) => ({ url: '/shop/brand', method: 'PUT', body }), invalidatesTags: ['Shop'] }),
    saveTaxTable: build.mutation<ShopView, TaxTable>({
      query: (taxTable) => ({ url: '/shop/tax-table', method: 'PUT', body: { taxTable } }),
      invalidatesTags: ['Shop'],
    }),
    saveShippingTable: build.mutation<ShopView, ShippingTable>({
      query: (shippingTable) => ({ url: '/shop/shipping-table', method: 'PUT', body: { shippingTable } }),
      invalidatesTags: ['Shop', 'Funnel'],
    }),
  }),
});
