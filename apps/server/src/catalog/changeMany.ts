import { type Bulk, type BulkChange, type Changed, type Product, ProductInputSchema, undoBulk } from '@ruta/core/catalog';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { archiveIn } from './service';
import { findProducts, saveProduct } from './store';

type Needs = Pick<Services, 'db' | 'clock'>;

/** Changes many products at once: all of them, or none if one cannot be. @throws Refusal 400 or 409 if one of them cannot be */
export function changeProducts({ db, clock }: Needs, { ids, change }: Bulk): Changed {
  return db.transaction((tx) => {
    const found = changeTogether({ db: tx, clock }, ids, change);
    return { changed: found.length, undo: undoBulk(found, change) };
  });
}

/** Makes products again as they were before a change to many, all of them or none. @throws Refusal as the change itself */
export function undoChange({ db, clock }: Needs, undo: readonly Bulk[]): Changed {
  db.transaction((tx) => {
    for (const { ids, change } of undo) changeTogether({ db: tx, clock }, ids, change);
  });
  return { changed: undo.reduce((sum, { ids }) => sum + ids.length, 0), undo: [] };
}

/** Does the same to some products. @returns them as they were */
function changeTogether(services: Needs, ids: readonly string[], change: BulkChange): readonly Product[] {
  const { db, clock } = services;
  const found = findProducts(db, ids);
  if (found.length < new Set(ids).size) throw new Refusal(409, 'One of these products no longer exists. Nothing was changed.');
  const together = (now: string[], add: string[] = [], remove: string[] = []) => [...new Set([...now, ...add])].filter((word) => !remove.includes(word));
  for (const product of found) {
    const next = {
      ...(change.status ? { status: change.status } : {}),
      ...(change.taxClass ? { taxClass: change.taxClass } : {}),
      tags: together(product.tags, change.addTags, change.removeTags),
      categories: together(product.categories, change.addCategories, change.removeCategories),
    };
    const parsed = ProductInputSchema.safeParse({ ...product, ...next });
    if (!parsed.success) throw new Refusal(400, `“${product.label || product.name}”: ${parsed.error.issues[0]?.message} Nothing was changed.`);
    saveProduct(db, product.id, next, clock.now());
    if (change.archived !== undefined) archiveIn(services, product.id, change.archived);
  }
  return found;
}
