import { idSchema, ProductInputSchema, ProductSchema } from '@ruta/core';
import { z } from 'zod';
import type { Api } from '../http/api';
import type { Services } from '../services';
import { createProduct, listProducts, loadProduct, setArchived, setProductFiles, updateProduct } from './store';

const FilesSchema = z.object({ fileIds: z.array(idSchema('file')).max(50) });

export function catalogRoutes(api: Api, services: Services): void {
  const { db } = services;
  /** A changed product shows on published pages at once, since they take name and price from it. */
  const changed = <T>(result: T): T => {
    services.publicPages.clear();
    return result;
  };
  api.on({ method: 'get', path: '/products', summary: 'All products', response: z.array(ProductSchema) }, () => listProducts(db));
  api.on({ method: 'post', path: '/products', summary: 'Add a product', body: ProductInputSchema, response: ProductSchema }, ({ body }) =>
    createProduct(services, body),
  );
  api.on({ method: 'get', path: '/products/:id', summary: 'One product', response: ProductSchema }, ({ params }) => loadProduct(db, params.id ?? ''));
  api.on({ method: 'put', path: '/products/:id', summary: 'Change a product', body: ProductInputSchema, response: ProductSchema }, ({ params, body }) =>
    changed(updateProduct(services, params.id ?? '', body)),
  );
  api.on({ method: 'put', path: '/products/:id/files', summary: 'Set a product’s files', body: FilesSchema, response: ProductSchema }, ({ params, body }) =>
    setProductFiles(services, params.id ?? '', body.fileIds),
  );
  api.on(
    {
      method: 'put',
      path: '/products/:id/archived',
      summary: 'Archive a product or bring it back',
      body: z.object({ archived: z.boolean() }),
      response: ProductSchema,
    },
    ({ params, body }) => changed(setArchived(services, params.id ?? '', body.archived)),
  );
}
