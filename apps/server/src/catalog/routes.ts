import { idSchema, ProductInputSchema, ProductSchema, ProductStatusSchema, TaxClassSchema } from '@ruta/core';
import { z } from 'zod';
import type { Api } from '../http/api';
import { notFound } from '../http/problem';
import { sendFile } from '../http/sendFile';
import type { Services } from '../services';
import { leftOf, soldOf } from './availability';
import { addKeys, countKeys } from './keys';
import { bundlesWith, changeProducts, createProduct, duplicateProduct, funnelsWith, setArchived, setProductFiles, updateProduct } from './service';
import { listProducts, loadProduct } from './store';
import { exportProducts, importProducts } from './transfer';

const MAX_IMPORT_CHARACTERS = 20_000_000;

const FilesSchema = z.object({
  files: z.array(z.object({ id: idSchema('file'), only: z.string().nullable().default(null) })).max(50, 'Keep it to fifty files.'),
});
const WordsSchema = z.array(z.string().trim().min(1).max(60)).max(30);
const BulkSchema = z.object({
  ids: z.array(idSchema('product')).min(1, 'Choose at least one product.').max(5000),
  change: z.object({
    status: ProductStatusSchema.optional(),
    taxClass: TaxClassSchema.optional(),
    addTags: WordsSchema.optional(),
    removeTags: WordsSchema.optional(),
    addCategories: WordsSchema.optional(),
    removeCategories: WordsSchema.optional(),
    archived: z.boolean().optional(),
  }),
});
const FormatSchema = z.enum(['csv', 'json']);
const ImportSchema = z.object({ format: FormatSchema, text: z.string().max(MAX_IMPORT_CHARACTERS, 'This file is over 20 MB.'), apply: z.boolean() });
const ReportSchema = z.object({
  added: z.int(),
  changed: z.int(),
  same: z.int(),
  problems: z.array(z.object({ line: z.int(), column: z.string(), message: z.string() })),
  notes: z.array(z.string()),
  products: z.array(z.object({ name: z.string(), change: z.enum(['add', 'change', 'same']), line: z.int() })),
  applied: z.boolean(),
});
const UseSchema = z.object({
  editions: z.array(z.object({ id: z.string(), sold: z.int(), left: z.int().nullable() })),
  keys: z.object({ waiting: z.int(), given: z.int() }),
  funnels: z.array(z.object({ id: z.string(), name: z.string() })),
  bundles: z.array(z.string()),
});

export function catalogRoutes(api: Api, services: Services): void {
  const { db } = services;
  /** A changed product shows on published pages at once, since they take name and price from it. */
  const changed = <T>(result: T): T => {
    services.publicPages.clear();
    return result;
  };
  const idOf = (params: Record<string, string>) => params.id ?? '';

  api.on({ method: 'get', path: '/products', summary: 'Products that are not archived', response: z.array(ProductSchema) }, () => listProducts(db));
  api.on({ method: 'get', path: '/products/archived', summary: 'All products, archived ones too', response: z.array(ProductSchema) }, () =>
    listProducts(db, true),
  );
  api.on({ method: 'post', path: '/products', summary: 'Add a product', body: ProductInputSchema, response: ProductSchema }, ({ body }) =>
    createProduct(services, body),
  );
  api.on({ method: 'post', path: '/products/bulk', summary: 'Change many products', body: BulkSchema, response: z.object({ changed: z.int() }) }, ({ body }) =>
    changed({ changed: changeProducts(services, body.ids, body.change) }),
  );
  api.on({ method: 'get', path: '/products/export/:format', summary: 'All products as a file, csv or json' }, ({ params, response }) => {
    const format = FormatSchema.safeParse(params.format);
    if (!format.success) throw notFound('This kind of file');
    sendFile(response, `products.${format.data}`, exportProducts(services, format.data));
  });
  api.on(
    { method: 'post', path: '/products/import', summary: 'Import products, or look first at what would happen', body: ImportSchema, response: ReportSchema },
    ({ body }) => changed(importProducts(services, body.format, body.text, body.apply)),
  );
  api.on({ method: 'get', path: '/products/:id', summary: 'One product', response: ProductSchema }, ({ params }) => loadProduct(db, idOf(params)));
  api.on({ method: 'put', path: '/products/:id', summary: 'Change a product', body: ProductInputSchema, response: ProductSchema }, ({ params, body }) =>
    changed(updateProduct(services, idOf(params), body)),
  );
  api.on({ method: 'post', path: '/products/:id/duplicate', summary: 'Copy a product', response: ProductSchema }, ({ params }) =>
    duplicateProduct(services, idOf(params)),
  );
  api.on({ method: 'put', path: '/products/:id/files', summary: 'Set a product’s files', body: FilesSchema, response: ProductSchema }, ({ params, body }) =>
    setProductFiles(services, idOf(params), body.files),
  );
  api.on(
    {
      method: 'put',
      path: '/products/:id/archived',
      summary: 'Archive a product or bring it back',
      body: z.object({ archived: z.boolean() }),
      response: ProductSchema,
    },
    ({ params, body }) => changed(setArchived(services, idOf(params), body.archived)),
  );
  api.on(
    { method: 'get', path: '/products/:id/use', summary: 'What was sold of a product, what is left, and where it is sold', response: UseSchema },
    ({ params }) => {
      const product = loadProduct(db, idOf(params));
      return {
        editions: product.editions.map((edition) => ({ id: edition.id, sold: soldOf(db, edition.id), left: leftOf(services, edition, null) })),
        keys: countKeys(db, product.id),
        funnels: funnelsWith(db, product.id),
        bundles: bundlesWith(db, product.id),
      };
    },
  );
  api.on(
    {
      method: 'post',
      path: '/products/:id/keys',
      summary: 'Add pasted licence keys, one a line',
      body: z.object({ keys: z.string().max(5_000_000, 'This is too much at once.') }),
      response: z.object({ added: z.int(), repeated: z.int() }),
    },
    ({ params, body }) => addKeys(services, loadProduct(db, idOf(params)).id, body.keys),
  );
}
