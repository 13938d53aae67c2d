import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type BulkChange, undoBulk } from '../src/catalog';

const WORDS = ['paper', 'sky', 'moon', 'gift'];
const words = fc.subarray(WORDS);
const product = fc.record({
  status: fc.constantFrom('live' as const, 'test' as const, 'off' as const),
  taxClass: fc.constantFrom('standard' as const, 'reduced' as const),
  tags: words,
  categories: words,
  archivedAt: fc.constantFrom(null, 5),
});
type Product = Parameters<typeof undoBulk>[0][number];
const change = fc.record(
  {
    status: fc.constantFrom('live' as const, 'test' as const, 'off' as const),
    taxClass: fc.constantFrom('standard' as const, 'reduced' as const),
    addTags: words,
    removeTags: words,
    addCategories: words,
    archived: fc.boolean(),
  },
  { requiredKeys: [] },
);

/** What a change does to a product, written down once more. */
function changed(before: Product, wanted: BulkChange): Product {
  const together = (now: readonly string[], add: readonly string[] = [], remove: readonly string[] = []) =>
    [...new Set([...now, ...add])].filter((word) => !remove.includes(word));
  return {
    ...before,
    status: wanted.status ?? before.status,
    taxClass: wanted.taxClass ?? before.taxClass,
    tags: together(before.tags, wanted.addTags, wanted.removeTags),
    categories: together(before.categories, wanted.addCategories, wanted.removeCategories),
    archivedAt: wanted.archived === undefined ? before.archivedAt : wanted.archived ? (before.archivedAt ?? 5) : null,
  };
}
const sorted = (each: Product) => ({ ...each, tags: each.tags.toSorted(), categories: each.categories.toSorted() });

describe('a change to many products', () => {
  it('is undone whole, whatever it was and whatever they were', () => {
    fc.assert(
      fc.property(fc.array(product, { maxLength: 8 }), change, (drawn, wanted) => {
        // Whoever adds and removes the same word removes it.
        const one = { ...wanted, ...(wanted.addTags ? { addTags: wanted.addTags.filter((word) => !wanted.removeTags?.includes(word)) } : {}) } as BulkChange;
        const before = drawn.map((each, index) => ({ ...each, id: `prd_${index}` }));
        const after = new Map(before.map((each) => [each.id, changed(each, one)]));
        for (const { ids, change: undo } of undoBulk(before, one)) for (const id of ids) after.set(id, changed(after.get(id) as Product, undo));
        expect([...after.values()].map(sorted)).toEqual(before.map(sorted));
      }),
    );
  });

  it('is undone together for those that need the same, and not at all for those it leaves as they are', () => {
    const base = { taxClass: 'standard' as const, tags: [], categories: [], archivedAt: null };
    const products = [
      { id: 'prd_a', status: 'off' as const, ...base },
      { id: 'prd_b', status: 'off' as const, ...base },
      { id: 'prd_c', status: 'test' as const, ...base },
      { id: 'prd_d', status: 'live' as const, ...base },
    ];
    expect(undoBulk(products, { status: 'live' })).toEqual([
      { ids: ['prd_a', 'prd_b'], change: { status: 'off' } },
      { ids: ['prd_c'], change: { status: 'test' } },
    ]);
  });
});
