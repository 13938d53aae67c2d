import type { Bulk, BulkChange } from './api';
import type { Product } from './product';

type Changeable = Pick<Product, 'id' | 'status' | 'taxClass' | 'tags' | 'categories' | 'archivedAt'>;

const without = (words: readonly string[] = [], taken: readonly string[]) => words.filter((word) => !taken.includes(word));
const both = (words: readonly string[] = [], kept: readonly string[]) => words.filter((word) => kept.includes(word));

/** The change that makes one product as it is now again, after a change; empty if nothing of it changes. */
function undoOne(product: Changeable, change: BulkChange): BulkChange {
  const undo: BulkChange = {
    ...(change.status !== undefined && change.status !== product.status ? { status: product.status } : {}),
    ...(change.taxClass !== undefined && change.taxClass !== product.taxClass ? { taxClass: product.taxClass } : {}),
    ...(change.archived !== undefined && change.archived !== (product.archivedAt !== null) ? { archived: !change.archived } : {}),
    removeTags: without(change.addTags, product.tags),
    addTags: both(change.removeTags, product.tags),
    removeCategories: without(change.addCategories, product.categories),
    addCategories: both(change.removeCategories, product.categories),
  };
  return Object.fromEntries(Object.entries(undo).filter(([, value]) => !Array.isArray(value) || value.length > 0));
}

/**
 * What makes products as they are now again, after one change to all of them: products that need the same are changed
 * together, those that the change leaves as they are not at all.
 */
export function undoBulk(products: readonly Changeable[], change: BulkChange): Bulk[] {
  const parts = new Map<string, Bulk>();
  for (const product of products) {
    const undo = undoOne(product, change);
    if (Object.keys(undo).length === 0) continue;
    const key = JSON.stringify(undo);
    const part = parts.get(key);
    if (part) part.ids.push(product.id);
    else parts.set(key, { ids: [product.id], change: undo });
  }
  return [...parts.values()];
}
