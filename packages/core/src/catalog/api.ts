import { z } from 'zod';
import { idSchema } from '../ids';
import { ListQuerySchema, listPageSchema } from '../lists';
import { TaskIdSchema } from '../tasks';
import { ProductKindSchema, TaxClassSchema } from './kinds';
import { PictureInfoSchema } from './picture';
import { PriceSchema } from './price';
import { ProductFileSchema, ProductStatusSchema } from './product';

const MAX_IMPORT_CHARACTERS = 20_000_000;

/** A product in a list, without its texts, files and delivery. */
export const ProductRowSchema = z.object({
  id: z.string(),
  name: z.string(),
  label: z.string(),
  kind: ProductKindSchema,
  status: ProductStatusSchema,
  free: z.boolean(),
  price: PriceSchema.describe('Of its first edition'),
  options: z.int().describe('How many ways to buy it there are'),
  editions: z.array(z.object({ id: z.string(), name: z.string() })),
  bundle: z.boolean(),
  subscription: z.boolean().describe('Its first price is one'),
  categories: z.array(z.string()),
  tags: z.array(z.string()),
  files: z.int(),
  picture: PictureInfoSchema.nullable(),
  archivedAt: z.int().nullable(),
  left: z.int().nullable().describe('How many of it are left in all; null without limit'),
  gone: z.enum(['closed', 'sold-out']).nullable().describe('Why nobody can buy it, although it is on sale'),
});
export type ProductRow = z.infer<typeof ProductRowSchema>;

/** Yes or no in an address. */
const FlagSchema = z.enum(['true', 'false']).transform((flag) => flag === 'true');

export const ProductListQuerySchema = ListQuerySchema.extend({
  archived: FlagSchema.default(false).describe('Only those that are archived'),
  kind: ProductKindSchema.optional(),
  status: ProductStatusSchema.optional(),
  category: z.string().max(60).optional(),
  tag: z.string().max(60).optional(),
  free: FlagSchema.optional(),
});
export type ProductListQuery = z.infer<typeof ProductListQuerySchema>;
export const ProductPageSchema = listPageSchema(ProductRowSchema);

/** Ids in an address, separated by commas. */
/** Some products, to be asked about. */
export const ProductIdsSchema = z.object({ ids: z.array(idSchema('product')).max(20_000) });
/** A live funnel that sells or gives a product. */
export const LiveUseSchema = z.object({ productId: z.string(), productName: z.string(), funnelName: z.string() });
export type LiveUse = z.infer<typeof LiveUseSchema>;

export const NamedQuerySchema = z.object({
  ids: z
    .string()
    .max(4000)
    .transform((text) => text.split(',').filter((id) => id !== ''))
    .pipe(z.array(z.string()).max(100)),
});

/** Every category and tag in use, for filters. */
export const ProductWordsSchema = z.object({ categories: z.array(z.string()), tags: z.array(z.string()) });

export const FileChoicesSchema = z.object({
  files: z.array(z.object({ id: idSchema('file'), only: z.string().nullable().default(null) })).max(50, 'Keep it to fifty files.'),
});

const WordsSchema = z.array(z.string().trim().min(1).max(60)).max(30);
export const BulkChangeSchema = z.object({
  status: ProductStatusSchema.optional(),
  taxClass: TaxClassSchema.optional(),
  addTags: WordsSchema.optional(),
  removeTags: WordsSchema.optional(),
  addCategories: WordsSchema.optional(),
  removeCategories: WordsSchema.optional(),
  archived: z.boolean().optional(),
});
export type BulkChange = z.infer<typeof BulkChangeSchema>;
export const MOST_CHANGED = 20_000;
export const BulkSchema = z.object({
  ids: z.array(idSchema('product')).min(1, 'Select at least one product.').max(MOST_CHANGED, 'Select at most 20,000 products at once.'),
  change: BulkChangeSchema,
});
export type Bulk = z.infer<typeof BulkSchema>;
export const BulkUndoSchema = z.object({ undo: z.array(BulkSchema).min(1).max(MOST_CHANGED) });
export const ChangedSchema = z.object({ changed: z.int(), undo: z.array(BulkSchema).describe('What makes the products again as they were') });
export type Changed = z.infer<typeof ChangedSchema>;
export const MatchingIdsSchema = z.object({ ids: z.array(idSchema('product')).describe('Of every product that a list has') });
export const ArchivedSchema = z.object({ archived: z.boolean() });

export const FileFormatSchema = z.enum(['csv', 'json']);
export type FileFormat = z.infer<typeof FileFormatSchema>;
export const ProductImportSchema = z.object({
  format: FileFormatSchema,
  text: z.string().max(MAX_IMPORT_CHARACTERS, 'This file is over 20 MB.'),
  apply: z.boolean().describe('False to look first at what would happen'),
  task: TaskIdSchema,
});
export type ProductImport = z.infer<typeof ProductImportSchema>;
export const FileProblemSchema = z.object({ line: z.int(), column: z.string(), message: z.string() });

/** What an import would do, or has done. With a problem nothing is imported. */
export const ImportReportSchema = z.object({
  added: z.int(),
  changed: z.int(),
  same: z.int().default(0),
  problems: z.array(FileProblemSchema),
  notes: z.array(z.string()).default([]).describe('What is left out, in words: pictures and files that are not stored in this shop'),
  products: z
    .array(z.object({ name: z.string(), change: z.enum(['add', 'change', 'same']), line: z.int() }))
    .default([])
    .describe('The first 500'),
  applied: z.boolean(),
});
export type ImportReport = z.infer<typeof ImportReportSchema>;

/** What was sold of a product, what is left, and what it is part of. */
export const ProductUseSchema = z.object({
  editions: z.array(z.object({ id: z.string(), sold: z.int(), left: z.int().nullable() })),
  keys: z.object({ waiting: z.int(), given: z.int() }),
  bundles: z.array(z.string()),
});
export type ProductUse = z.infer<typeof ProductUseSchema>;

export const KeysSchema = z.object({ keys: z.string().max(5_000_000, 'This is more than 5 MB. Paste it in parts.'), task: TaskIdSchema });
export const KeysAddedSchema = z.object({ added: z.int(), repeated: z.int() });
export type KeysAdded = z.infer<typeof KeysAddedSchema>;

/** A file that was uploaded for buyers. */
export const UploadedFileSchema = ProductFileSchema.omit({ only: true });
