import {
  ArchivedSchema,
  BulkSchema,
  BulkUndoSchema,
  type Changed,
  ChangedSchema,
  FileChoicesSchema,
  FileFormatSchema,
  type ImportReport,
  ImportReportSchema,
  type KeysAdded,
  KeysAddedSchema,
  KeysSchema,
  MatchingIdsSchema,
  NamedQuerySchema,
  ProductImportSchema,
  ProductInputSchema,
  ProductListQuerySchema,
  ProductPageSchema,
  ProductSchema,
  ProductUseSchema,
  ProductWordsSchema,
} from '@ruta/core/catalog';
import { CountSchema } from '@ruta/core/lists';
import { z } from 'zod';
import type { Api } from '../base/api';
import { notFound } from '../base/problem';
import { refuseOlder } from '../base/revision';
import { sendFile } from '../base/sendFile';
import type { Services } from '../base/services';
import { leftOf, soldOf } from './availability';
import { countKeys } from './keys';
import { countProducts, listProductRows, productIds, productWords } from './list';
import { createProduct, duplicateProduct, setArchived, setProductFiles, updateProduct } from './service';
import { bundlesWith, loadProduct, productsNamed } from './store';

export function catalogRoutes(api: Api, services: Services): void {
  const { db } = services;
  /** What a thread of its own has changed is read anew here. */
  const changed = (done: Changed): Changed => {
    services.changes.announce();
    return done;
  };
  const idOf = (params: Record<string, string>) => params.id ?? '';

  api.on({ method: 'get', path: '/products', summary: 'Products, page by page', query: ProductListQuerySchema, response: ProductPageSchema }, ({ query }) =>
    listProductRows(services, query),
  );
  api.on(
    { method: 'get', path: '/products/count', summary: 'How many products a list has', query: ProductListQuerySchema, response: CountSchema },
    ({ query }) => ({ count: countProducts(db, query) }),
  );
  api.on(
    {
      method: 'get',
      path: '/products/named',
      summary: 'Some products by their ids, and the parts of bundles',
      query: NamedQuerySchema,
      response: z.array(ProductSchema),
    },
    ({ query }) => productsNamed(db, query.ids),
  );
  api.on({ method: 'get', path: '/products/words', summary: 'Categories and tags in use', response: ProductWordsSchema }, () => productWords(db));
  api.on({ method: 'post', path: '/products', summary: 'Add a product', body: ProductInputSchema, response: ProductSchema }, ({ body }) =>
    createProduct(services, body),
  );
  api.on({ method: 'post', path: '/products/bulk', summary: 'Change many products', body: BulkSchema, response: ChangedSchema }, async ({ body }) =>
    changed(await services.tasks.run<Changed>('changeProducts', body)),
  );
  api.on(
    { method: 'post', path: '/products/bulk/undo', summary: 'Undo a change to many products', body: BulkUndoSchema, response: ChangedSchema },
    async ({ body }) => changed(await services.tasks.run<Changed>('undoChange', body.undo)),
  );
  api.on(
    { method: 'get', path: '/products/ids', summary: 'The ids of every product that a list has', query: ProductListQuerySchema, response: MatchingIdsSchema },
    ({ query }) => ({ ids: productIds(db, query) }),
  );
  api.on({ method: 'get', path: '/products/export/:format', summary: 'All products as a file, csv or json' }, async ({ params, response }) => {
    const format = FileFormatSchema.safeParse(params.format);
    if (!format.success) throw notFound('This kind of file');
    sendFile(response, `products.${format.data}`, await services.tasks.run<string>('exportProducts', format.data));
  });
  api.on(
    {
      method: 'post',
      path: '/products/import',
      summary: 'Import products, or look first at what would happen',
      body: ProductImportSchema,
      response: ImportReportSchema,
    },
    async ({ body }) => {
      const report = await services.tasks.run<ImportReport>('importProducts', body, body.task);
      services.changes.announce();
      return report;
    },
  );
  api.on({ method: 'get', path: '/products/:id', summary: 'One product', response: ProductSchema }, ({ params }) => loadProduct(db, idOf(params)));
  api.on(
    { method: 'put', path: '/products/:id', summary: 'Change a product', body: ProductInputSchema, response: ProductSchema },
    ({ params, body, request }) => {
      refuseOlder(request, 'This product was', loadProduct(db, idOf(params)).updatedAt);
      return updateProduct(services, idOf(params), body);
    },
  );
  api.on({ method: 'post', path: '/products/:id/duplicate', summary: 'Copy a product', response: ProductSchema }, ({ params }) =>
    duplicateProduct(services, idOf(params)),
  );
  api.on(
    { method: 'put', path: '/products/:id/files', summary: 'Set a product’s files', body: FileChoicesSchema, response: ProductSchema },
    ({ params, body }) => setProductFiles(services, idOf(params), body.files),
  );
  api.on(
    { method: 'put', path: '/products/:id/archived', summary: 'Archive a product or bring it back', body: ArchivedSchema, response: ProductSchema },
    ({ params, body }) => setArchived(services, idOf(params), body.archived),
  );
  api.on({ method: 'get', path: '/products/:id/use', summary: 'What was sold of a product, and what is left', response: ProductUseSchema }, ({ params }) => {
    const product = loadProduct(db, idOf(params));
    return {
      editions: product.editions.map((edition) => ({ id: edition.id, sold: soldOf(db, edition.id), left: leftOf(services, edition, null) })),
      keys: countKeys(db, product.id),
      bundles: bundlesWith(db, product.id),
    };
  });
  api.on(
    { method: 'post', path: '/products/:id/keys', summary: 'Add pasted licence keys, one a line', body: KeysSchema, response: KeysAddedSchema },
    ({ params, body }) => services.tasks.run<KeysAdded>('addKeys', { productId: loadProduct(db, idOf(params)).id, keys: body.keys }, body.task),
  );
}
