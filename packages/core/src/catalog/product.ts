import { z } from 'zod';
import { idSchema } from '../ids';
import { AmountSchema } from '../money';
import { PictureInfoSchema } from './picture';

/** Tax classes of goods; each country gives every class a rate. */
export const TaxClassSchema = z.enum(['standard', 'reduced', 'digital', 'exempt']);
export type TaxClass = z.infer<typeof TaxClassSchema>;

export const ProductKindSchema = z.enum(['digital', 'physical', 'service']);
export type ProductKind = z.infer<typeof ProductKindSchema>;

/** A sale price, between two moments; a missing bound is open. Start included, end excluded. */
export const SaleSchema = z
  .object({
    amount: AmountSchema,
    from: z.int().optional().describe('Unix time in milliseconds'),
    until: z.int().optional().describe('Unix time in milliseconds'),
  })
  .refine((sale) => sale.from === undefined || sale.until === undefined || sale.from < sale.until, {
    message: 'The sale must end after it starts.',
    path: ['until'],
  });

/** What a product costs: once, or nothing. Amounts in minor units of the shop's currency. */
export const PriceSchema = z.discriminatedUnion('kind', [
  z
    .object({ kind: z.literal('one-time'), regular: AmountSchema.min(1, 'Enter a price above zero, or choose “Free”.'), sale: SaleSchema.optional() })
    .refine((price) => !price.sale || price.sale.amount < price.regular, {
      message: 'The sale price must be below the regular price.',
      path: ['sale', 'amount'],
    }),
  z.object({ kind: z.literal('free') }),
]);
export type Price = z.infer<typeof PriceSchema>;

/** Everything a seller types about a product; pictures and files are kept beside it. */
export const ProductInputSchema = z.object({
  name: z.string().trim().min(1, 'Give the product a name that buyers see.').max(120, 'Keep the name under 120 characters.'),
  label: z.string().trim().max(120, 'Keep the label under 120 characters.').default(''),
  description: z.string().trim().max(4000, 'Keep the description under 4,000 characters.').default(''),
  kind: ProductKindSchema.default('digital'),
  taxClass: TaxClassSchema.default('standard'),
  price: PriceSchema,
  pictureId: idSchema('file').nullable().default(null),
});
export type ProductInput = z.infer<typeof ProductInputSchema>;

/** A digital file that a buyer receives. */
export const ProductFileSchema = z.object({
  id: idSchema('file'),
  name: z.string(),
  bytes: z.int().min(0),
  contentType: z.string(),
});
export type ProductFile = z.infer<typeof ProductFileSchema>;

export const ProductSchema = ProductInputSchema.extend({
  id: idSchema('product'),
  picture: PictureInfoSchema.nullable(),
  files: z.array(ProductFileSchema),
  archivedAt: z.int().nullable(),
  createdAt: z.int(),
  updatedAt: z.int(),
});
export type Product = z.infer<typeof ProductSchema>;

/** The name a team sees in lists: the internal label where there is one, else the public name. */
export function productLabel(product: Pick<Product, 'name' | 'label'>): string {
  return product.label || product.name;
}
