import { z } from 'zod';
import type { Purchase } from './facts';
import type { FactNames } from './record';

/** Which purchases are meant: of a product, an edition or a price, or of anything in a category or with a tag. */
export const PurchaseTestSchema = z.discriminatedUnion('by', [
  z.object({ by: z.literal('product'), productId: z.string() }),
  z.object({ by: z.literal('edition'), editionId: z.string() }),
  z.object({ by: z.literal('price'), priceId: z.string() }),
  z.object({ by: z.literal('category'), category: z.string().min(1) }),
  z.object({ by: z.literal('tag'), tag: z.string().min(1) }),
]);
type PurchaseTest = z.infer<typeof PurchaseTestSchema>;

export const fields = {
  what: PurchaseTestSchema,
  role: z.enum(['main', 'bump', 'upsell', 'downsell']).optional(),
  quantity: z.int().min(1).optional().describe('At least so many together'),
};
export type Asked = z.infer<z.ZodObject<typeof fields>>;

function matches(what: PurchaseTest, purchase: Purchase): boolean {
  switch (what.by) {
    case 'product':
      return purchase.productId === what.productId;
    case 'edition':
      return purchase.editionId === what.editionId;
    case 'price':
      return purchase.priceId === what.priceId;
    case 'category':
      return purchase.categories.includes(what.category);
    case 'tag':
      return purchase.tags.includes(what.tag);
    default:
      return what satisfies never;
  }
}

export function among({ what, role, quantity = 1 }: Asked, purchases: readonly Purchase[]): boolean {
  const meant = purchases.filter((purchase) => matches(what, purchase) && (role === undefined || purchase.role === role));
  return meant.reduce((sum, purchase) => sum + purchase.quantity, 0) >= quantity;
}

export function wordsOf({ what, role, quantity }: Asked, names: FactNames): string {
  const thing = {
    product: () => `“${names.product('productId' in what ? what.productId : '')}”`,
    edition: () => `“${names.edition('editionId' in what ? what.editionId : '')}”`,
    price: () => `the price “${names.price('priceId' in what ? what.priceId : '')}”`,
    category: () => `anything in “${'category' in what ? what.category : ''}”`,
    tag: () => `anything tagged “${'tag' in what ? what.tag : ''}”`,
  }[what.by]();
  return `${quantity && quantity > 1 ? `at least ${quantity} of ` : ''}${thing}${role && role !== 'main' ? ` as ${role === 'upsell' ? 'an upsell' : `a ${role}`}` : ''}`;
}
