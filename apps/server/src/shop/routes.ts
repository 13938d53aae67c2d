import { taxTableToCsv } from '@ruta/core/formats';
import { ShippingTableChangeSchema, ShopChangeSchema, ShopViewSchema, TaxTableChangeSchema } from '@ruta/core/pricing';
import { BrandSchema } from '@ruta/core/shop';
import type { Request } from 'express';
import type { Api } from '../base/api';
import { refuseOlder, revisionOf } from '../base/revision';
import { sendFile } from '../base/sendFile';
import type { Services } from '../base/services';
import { loadShop, type ShopRow, saveShop } from './store';

/** Settings, brand and tables of the shop. */
export function shopRoutes(api: Api, services: Services): void {
  const { db, config } = services;
  const view = () => {
    const shop = loadShop(db);
    const { settings, brand, taxTable, shippingTable } = shop;
    const revisions = {
      settings: revisionOf(settings),
      brand: revisionOf(brand),
      taxTable: revisionOf(taxTable),
      shippingTable: revisionOf(shippingTable),
    };
    return { ...shop, revisions, siteUrl: config.siteUrl, standinsUrl: config.standinsUrl };
  };
  const change = (request: Request, what: string, changes: Partial<Pick<ShopRow, 'settings' | 'brand' | 'taxTable' | 'shippingTable'>>) => {
    for (const part of Object.keys(changes) as Array<keyof typeof changes>) refuseOlder(request, what, revisionOf(loadShop(db)[part]));
    saveShop(services, changes);
    return view();
  };
  api.on({ method: 'get', path: '/shop', summary: 'The shop’s settings and brand', response: ShopViewSchema }, view);
  api.on(
    { method: 'put', path: '/shop', summary: 'Change the shop’s settings', body: ShopChangeSchema, response: ShopViewSchema, role: 'owner' },
    ({ body, request }) =>
      // The currency stays: every price and past order is in it.
      change(request, 'The settings were', { settings: { ...loadShop(db).settings, ...body } }),
  );
  api.on({ method: 'put', path: '/shop/brand', summary: 'Change the brand', body: BrandSchema, response: ShopViewSchema }, ({ body, request }) =>
    change(request, 'The brand was', { brand: body }),
  );
  api.on(
    { method: 'put', path: '/shop/tax-table', summary: 'Change the tax rates', body: TaxTableChangeSchema, response: ShopViewSchema, role: 'owner' },
    ({ body, request }) => change(request, 'The tax table was', body),
  );
  api.on({ method: 'get', path: '/shop/tax-table/export', summary: 'The tax rates as CSV' }, ({ response }) => {
    const shop = loadShop(db);
    sendFile(response, 'tax-rates.csv', taxTableToCsv(shop.taxTable, shop.settings));
  });
  api.on(
    { method: 'put', path: '/shop/shipping-table', summary: 'Change zones and shipping rates', body: ShippingTableChangeSchema, response: ShopViewSchema },
    ({ body, request }) => change(request, 'The shipping table was', body),
  );
}
