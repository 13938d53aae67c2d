import type { Product, ProductInput } from '@ruta/core/catalog';
import { and, eq, inArray } from 'drizzle-orm';
import type { Db } from '../base/db';
import { countRows } from '../base/list';
import { fieldRefusal } from '../base/problem';
import { files } from '../files/tables';
import { findFunnel } from '../funnel/store';
import { bundlesWith, findProduct } from './store';

/** What products can point at: in the database, or in a file that is about to come in. */
export interface LinkTargets {
  product: (id: string) => Pick<Product, 'bundle' | 'editions'> | undefined;
  /** Whether a product is part of a bundle. */
  isBundled: (id: string) => boolean;
  hasFunnel: (id: string) => boolean;
  hasPictures: (ids: readonly string[]) => boolean;
}

/** Everything that this shop has. */
export function linkTargets(db: Db): LinkTargets {
  return {
    product: (id) => findProduct(db, id),
    isBundled: (id) => bundlesWith(db, id).length > 0,
    hasFunnel: (id) => findFunnel(db, id) !== undefined,
    hasPictures: (ids) => {
      const wanted = [...new Set(ids)];
      return countRows(db, files, and(inArray(files.id, wanted), eq(files.kind, 'picture'))) === wanted.length;
    },
  };
}

/** Whatever a product points at must be there: pictures, parts of the bundle, the funnel it leads to. @throws Refusal 400 at the field */
export function checkLinks(targets: LinkTargets, input: ProductInput, id: string | null): void {
  if (input.pictureIds.length > 0 && !targets.hasPictures(input.pictureIds)) throw fieldRefusal('pictureIds', 'This picture was not uploaded.');
  for (const [index, part] of input.bundle.entries()) {
    const product = targets.product(part.productId);
    const at = `bundle.${index}.productId`;
    if (!product) throw fieldRefusal(at, 'This product is not there any more.');
    if (part.productId === id || product.bundle.length > 0) throw fieldRefusal(at, 'A bundle cannot be part of a bundle.');
    const edition = product.editions.find((candidate) => candidate.id === part.editionId);
    if (!edition) throw fieldRefusal(`bundle.${index}.editionId`, 'The product has no such edition.');
    if (edition.prices[0]?.price.kind === 'subscription') throw fieldRefusal(at, 'A subscription cannot be part of a bundle.');
  }
  if (input.bundle.length > 0 && id !== null && targets.isBundled(id)) throw fieldRefusal('bundle', 'It is part of a bundle itself.');
  const { leadTo } = input;
  if (leadTo.kind === 'funnel' && !targets.hasFunnel(leadTo.funnelId)) throw fieldRefusal('leadTo.funnelId', 'This funnel is not there any more.');
}
