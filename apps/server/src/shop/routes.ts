import { BrandSchema, ShippingTableSchema, ShopSchema, TaxTableSchema, taxTableToCsv } from '@ruta/core';
import { z } from 'zod';
import { connectQuayside, quaysideStatus } from '../connections/service';
import { connectStudyporch, studyporchStatus } from '../connections/studyporch';
import type { Api } from '../http/api';
import { sendFile } from '../http/sendFile';
import type { Services } from '../services';
import { loadShop, saveShop } from './store';

const ShopViewSchema = z.object({
  settings: ShopSchema,
  brand: BrandSchema,
  taxTable: TaxTableSchema,
  shippingTable: ShippingTableSchema,
  siteUrl: z.string(),
  standinsUrl: z.string().nullable(),
});

/** Settings, brand and connections of the shop. */
export function shopRoutes(api: Api, services: Services): void {
  const { db, config } = services;
  const view = () => {
    const { settings, brand, taxTable, shippingTable } = loadShop(db);
    return { settings, brand, taxTable, shippingTable, siteUrl: config.siteUrl, standinsUrl: config.standinsUrl };
  };
  api.on({ method: 'get', path: '/shop', summary: 'The shop’s settings and brand', response: ShopViewSchema }, view);
  api.on(
    { method: 'put', path: '/shop', summary: 'Change the shop’s settings', body: ShopSchema.omit({ currency: true }), response: ShopViewSchema },
    ({ body }) => {
      // The currency stays: every price and past order is in it.
      saveShop(db, { settings: { ...loadShop(db).settings, ...body } });
      services.publicPages.clear();
      return view();
    },
  );
  api.on({ method: 'put', path: '/shop/brand', summary: 'Change the brand', body: BrandSchema, response: ShopViewSchema }, ({ body }) => {
    saveShop(db, { brand: body });
    services.publicPages.clear();
    return view();
  });
  api.on(
    { method: 'put', path: '/shop/tax-table', summary: 'Change the tax rates', body: z.object({ taxTable: TaxTableSchema }), response: ShopViewSchema },
    ({ body }) => {
      saveShop(db, body);
      services.publicPages.clear();
      return view();
    },
  );
  api.on({ method: 'get', path: '/shop/tax-table/export', summary: 'The tax rates as CSV' }, ({ response }) => {
    const shop = loadShop(db);
    sendFile(response, 'tax-rates.csv', taxTableToCsv(shop.taxTable, shop.settings));
  });
  api.on(
    {
      method: 'put',
      path: '/shop/shipping-table',
      summary: 'Change zones and shipping rates',
      body: z.object({ shippingTable: ShippingTableSchema }),
      response: ShopViewSchema,
    },
    ({ body }) => {
      saveShop(db, body);
      services.publicPages.clear();
      return view();
    },
  );
  const ConnectionSchema = z.object({ provider: z.string(), connected: z.boolean(), account: z.string().nullable(), reachable: z.boolean() });
  api.on({ method: 'get', path: '/connections', summary: 'Payment accounts', response: z.array(ConnectionSchema) }, async () => [
    await quaysideStatus(services),
    studyporchStatus(services),
  ]);
  api.on({ method: 'post', path: '/connections/studyporch', summary: 'Connect the course host', response: ConnectionSchema }, () =>
    connectStudyporch(services),
  );
  api.on({ method: 'post', path: '/connections/quayside', summary: 'Connect the card processor', response: ConnectionSchema }, () => connectQuayside(services));
}
