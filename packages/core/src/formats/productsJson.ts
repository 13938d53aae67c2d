import { z } from 'zod';
import { type Product, ProductFieldsSchema, ProductInputSchema } from '../catalog';
import { idSchema } from '../ids';
import { type FileProblem, isHopeless, type Progress, shortened, TOLD_EVERY, toldProblems } from './problems';
import { type Import, type ImportedProduct, MOST_PRODUCTS, TOO_MANY_PRODUCTS } from './productsCsv';

const FileProductSchema = z.object({
  ...ProductFieldsSchema.shape,
  id: idSchema('product').optional().describe('Missing for a new product'),
  files: z
    .array(z.object({ id: idSchema('file'), name: z.string().default(''), only: z.string().nullable().default(null) }))
    .default([])
    .describe('Stored files by their id; those that this shop does not have are left out'),
});

/** Products with everything about them, as a file. Amounts are minor units of `currency`. */
export const ProductsFileSchema = z.object({
  format: z.literal('ruta-products', 'This is no file of products of Ruta: its format is “ruta-products”.'),
  version: z.literal(1, 'Only version 1 of this file is understood here.'),
  currency: z.string(),
  products: z.array(FileProductSchema).max(MOST_PRODUCTS, TOO_MANY_PRODUCTS),
});
export type ProductsFile = z.infer<typeof ProductsFileSchema>;

/** Products as JSON by the published schema `products`. */
export function productsToJson(products: readonly Product[], currency: string): string {
  const file: ProductsFile = {
    format: 'ruta-products',
    version: 1,
    currency,
    products: products.map((product) => ({
      id: product.id,
      ...ProductInputSchema.parse(product),
      files: product.files.map(({ id, name, only }) => ({ id, name, only })),
    })),
  };
  return `${JSON.stringify(file, null, 2)}\n`;
}

export interface ImportedJsonProduct extends ImportedProduct {
  files: ProductsFile['products'][number]['files'];
}

/** Reads products from JSON. Known ids are changed, others added under the id of the file. */
export function productsFromJson(text: string, existing: readonly Product[], currency: string, progress?: Progress): Import<ImportedJsonProduct> {
  const refused = (message: string, column = ''): Import<ImportedJsonProduct> => ({ items: [], problems: [{ line: 0, column, message }] });
  let given: unknown;
  try {
    given = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    return refused('This is not a JSON file, or it is cut off.');
  }
  const file = ProductsFileSchema.safeParse(given);
  if (!file.success)
    return { items: [], problems: toldProblems(file.error.issues.map((issue) => ({ line: 0, column: issue.path.join('.'), message: issue.message }))) };
  if (file.data.currency !== currency) return refused(`The file is in ${shortened(file.data.currency)}, the shop in ${currency}.`, 'currency');
  const known = new Map(existing.map((product) => [product.id, product]));
  const problems: FileProblem[] = [];
  const items = file.data.products.flatMap(({ id, files, ...rest }, index): ImportedJsonProduct[] => {
    if (isHopeless(problems)) return [];
    if (index % TOLD_EVERY === 0) progress?.('checking', index, file.data.products.length);
    const parsed = ProductInputSchema.safeParse(rest);
    if (!parsed.success) {
      for (const issue of parsed.error.issues) problems.push({ line: 0, column: ['products', index, ...issue.path].join('.'), message: issue.message });
      return [];
    }
    const before = id === undefined ? undefined : known.get(id);
    const same =
      before !== undefined &&
      JSON.stringify(ProductInputSchema.parse(before)) === JSON.stringify(parsed.data) &&
      JSON.stringify(before.files.map((each) => [each.id, each.only])) === JSON.stringify(files.map((each) => [each.id, each.only]));
    return [{ id: id ?? null, input: parsed.data, files, change: before ? (same ? 'same' : 'change') : 'add', line: 0 }];
  });
  return { items: problems.length > 0 ? [] : items, problems: toldProblems(problems) };
}
