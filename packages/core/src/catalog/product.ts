import { z } from 'zod';
import { idSchema } from '../ids';
import { EmailSchema } from '../shop';
import { ProductKindSchema, TaxClassSchema } from './kinds';
import { PictureInfoSchema } from './picture';
import { PriceSchema } from './price';

const ShortTextSchema = (message: string, max = 120) => z.string().trim().max(max, message);
const AddressSchema = z
  .string()
  .trim()
  .max(600, 'This address is too long.')
  .refine(
    (text) => text === '' || /^https?:\/\/[^\s]+\.[^\s]+$|^https?:\/\/(localhost|127\.0\.0\.1)/.test(text),
    'Enter a whole address, beginning with https://.',
  );
const NeededAddressSchema = AddressSchema.refine((text) => text !== '', 'Enter an address, beginning with https://.');

/** What a buyer reads after the purchase, on the thank-you page and in the receipt; or an outside address they go to. */
export const ConfirmationSchema = z.discriminatedUnion('kind', [
  z
    .object({
      kind: z.literal('page'),
      text: ShortTextSchema('Keep the text under 2,000 characters.', 2000).default(''),
      buttonWords: ShortTextSchema('Keep the button under 60 characters.', 60).default(''),
      buttonUrl: AddressSchema.default(''),
    })
    .refine((page) => (page.buttonWords === '') === (page.buttonUrl === ''), { message: 'A button needs both its words and an address.', path: ['buttonUrl'] }),
  z.object({ kind: z.literal('address'), url: NeededAddressSchema }),
]);
export type Confirmation = z.infer<typeof ConfirmationSchema>;

/** One way to pay for a product or edition. */
export const PriceOptionSchema = z.object({
  id: idSchema('price'),
  name: ShortTextSchema('Keep the name under 80 characters.', 80).default('').describe('What buyers read, for example “In four payments”'),
  description: ShortTextSchema('Keep it under 200 characters.', 200).default(''),
  price: PriceSchema,
  confirmation: ConfirmationSchema.nullable().default(null).describe('In place of the product’s own'),
});
export type PriceOption = z.infer<typeof PriceOptionSchema>;

/** How many prices an edition, and how many editions a product may have. */
export const MOST_EDITION_PRICES = 12;
export const MOST_EDITIONS = 30;

/**
 * A version of a product with its own prices, weight and stock, and perhaps of another kind and tax class: a course sold
 * with a kit is sent. A product without versions has one, without a name.
 */
export const EditionSchema = z.object({
  id: idSchema('edition'),
  name: ShortTextSchema('Keep the name under 80 characters.', 80).default(''),
  sku: ShortTextSchema('Keep the SKU under 60 characters.', 60).default(''),
  kind: ProductKindSchema.nullable().default(null).describe('In place of the product’s own'),
  taxClass: TaxClassSchema.nullable().default(null).describe('In place of the product’s own'),
  weight: z.number('Enter the weight in grams.').min(0, 'A weight cannot be negative.').max(1_000_000, 'This is more than a ton.').default(0).describe('Grams'),
  stock: z
    .int('Enter a whole number.')
    .min(0, 'Stock cannot be negative.')
    .max(10_000_000)
    .nullable()
    .default(null)
    .describe('How many can be sold in all; null is without limit'),
  prices: z.array(PriceOptionSchema).min(1, 'Give this edition at least one price.').max(MOST_EDITION_PRICES, 'Keep it to twelve prices.'),
});
export type Edition = z.infer<typeof EditionSchema>;

/** `*` stands for any letter or digit, `#` for a digit, everything else for itself. */
const KeyPatternSchema = z
  .string()
  .trim()
  .max(60, 'Keep the pattern under 60 characters.')
  .refine((pattern) => (pattern.match(/[*#]/g) ?? []).length >= 8, 'Use at least eight * or #, so that keys cannot be guessed.');

/** How a buyer receives what is not sent by post. Files are kept beside the product. */
export const DeliverySchema = z.object({
  link: z
    .object({ words: ShortTextSchema('Keep the words under 80 characters.', 80), url: NeededAddressSchema })
    .nullable()
    .default(null),
  course: z
    .object({ url: NeededAddressSchema, courseId: z.string().trim().min(1, 'Enter the course’s name at its host.').max(120) })
    .nullable()
    .default(null)
    .describe('Access to a course at an outside host'),
  keys: z
    .discriminatedUnion('kind', [
      z.object({ kind: z.literal('pattern'), pattern: KeyPatternSchema }),
      z.object({ kind: z.literal('list'), warnAt: z.int().min(0).max(100_000).default(10).describe('Warn when so many keys are left') }),
    ])
    .nullable()
    .default(null),
  maxDownloads: z.int('Enter a whole number.').min(1, 'A limit is at least one.').max(1000).nullable().default(20),
  downloadDays: z.int('Enter whole days.').min(1, 'A limit is at least one day.').max(3650).nullable().default(null),
});
export type Delivery = z.infer<typeof DeliverySchema>;

/** Where somebody goes who comes after the closing date or when everything is sold. */
export const LeadToSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('message'), text: ShortTextSchema('Keep the text under 300 characters.', 300).default('') }),
  z.object({ kind: z.literal('funnel'), funnelId: idSchema('funnel') }),
  z.object({ kind: z.literal('address'), url: NeededAddressSchema }),
]);

export const ProductStatusSchema = z.enum(['off', 'test', 'live']);
export type ProductStatus = z.infer<typeof ProductStatusSchema>;

const WordsListSchema = z.array(z.string().trim().min(1).max(60, 'Keep each under 60 characters.')).max(30, 'Keep it to thirty.').default([]);

/** The fields of a product, each by itself. */
export const ProductFieldsSchema = z
  .object({
    name: z.string().trim().min(1, 'Give the product a name that buyers see.').max(120, 'Keep the name under 120 characters.'),
    label: ShortTextSchema('Keep the label under 120 characters.').default(''),
    description: z
      .string()
      .trim()
      .max(20_000, 'Keep the description under 20,000 characters.')
      .default('')
      .describe('Simple HTML: paragraphs, lists, bold, italic, links'),
    included: z.array(z.string().trim().min(1).max(200, 'Keep each line under 200 characters.')).max(40, 'Keep the list under forty lines.').default([]),
    kind: ProductKindSchema.default('digital'),
    taxClass: TaxClassSchema.default('standard'),
    status: ProductStatusSchema.default('live'),
    pictureIds: z.array(idSchema('file')).max(12, 'Keep it to twelve pictures.').default([]).describe('The first one leads'),
    previewUrl: AddressSchema.default(''),
    refundPolicy: z.string().trim().max(2000, 'Keep the policy under 2,000 characters.').default(''),
    contactEmail: z.union([z.literal(''), EmailSchema]).default(''),
    confirmation: ConfirmationSchema.default({ kind: 'page', text: '', buttonWords: '', buttonUrl: '' }),
    buyAgain: z
      .boolean()
      .optional()
      .describe('May be bought again by who owns it; if missing, what is used up may (shipped goods, services), digital products may not'),
    alone: z.boolean().default(false).describe('Must be bought alone, without bumps'),
    categories: WordsListSchema,
    tags: WordsListSchema,
    editions: z.array(EditionSchema).min(1, 'A product has at least one edition.').max(MOST_EDITIONS, 'Keep it to thirty editions.'),
    bundle: z
      .array(
        z.object({
          productId: idSchema('product'),
          editionId: idSchema('edition'),
          quantity: z.int().min(1, 'At least one.').max(99, 'At most 99.').default(1),
        }),
      )
      .max(30, 'Keep a bundle to thirty parts.')
      .default([])
      .describe('Products sold together at this product’s price'),
    delivery: DeliverySchema.default(DeliverySchema.parse({})),
    closesAt: z.int().nullable().default(null).describe('Unix time in milliseconds from which it cannot be bought any more'),
    leadTo: LeadToSchema.default({ kind: 'message', text: '' }).describe('Where one goes after it has closed or sold out'),
  })
  .describe('Everything a seller types about a product; pictures and files are kept beside it.');

/** Everything a seller types about a product; pictures and files are kept beside it. */
export const ProductInputSchema = ProductFieldsSchema.superRefine((product, context) => {
  const refuse = (path: Array<string | number>, message: string) => context.addIssue({ code: 'custom', path, message });
  const names = product.editions.map((edition) => edition.name.toLowerCase());
  for (const [index, edition] of product.editions.entries()) {
    if (product.editions.length > 1 && edition.name === '') refuse(['editions', index, 'name'], 'Name each edition, so that buyers can tell them apart.');
    else if (names.indexOf(edition.name.toLowerCase()) < index) refuse(['editions', index, 'name'], 'Two editions have this name.');
  }
  const ids = product.editions.flatMap((edition) => [edition.id, ...edition.prices.map((option) => option.id)]);
  if (new Set(ids).size < ids.length) refuse(['editions'], 'Editions and prices need ids of their own.');
  for (const [index, edition] of product.editions.entries()) {
    for (const [at, { price }] of edition.prices.entries()) {
      if ('sale' in price && price.sale?.amount === 0)
        refuse(['editions', index, 'prices', at, 'price', 'sale', 'amount'], 'A sale price is above zero. To give the product away, choose “Free”.');
    }
  }
  const skus = product.editions.map((edition) => edition.sku.toLowerCase());
  for (const [index, sku] of skus.entries()) if (sku !== '' && skus.indexOf(sku) < index) refuse(['editions', index, 'sku'], 'Two editions have this SKU.');
}).transform((product) => ({ ...product, buyAgain: product.buyAgain ?? product.kind !== 'digital' }));
export type ProductInput = z.infer<typeof ProductInputSchema>;

/** A digital file that a buyer receives: with every edition, or only with one edition or one price. */
export const ProductFileSchema = z.object({
  id: idSchema('file'),
  name: z.string(),
  bytes: z.int().min(0),
  contentType: z.string(),
  only: z.string().nullable().default(null).describe('Id of the edition or price it comes with; null for all'),
});
export type ProductFile = z.infer<typeof ProductFileSchema>;

export const ProductSchema = z.object({
  ...ProductFieldsSchema.shape,
  buyAgain: z.boolean().default(false),
  id: idSchema('product'),
  pictures: z.array(PictureInfoSchema),
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

export interface Option {
  edition: Edition;
  option: PriceOption;
}

/** Every way to buy a product, in the seller's order. */
export function optionsOf(product: Pick<Product, 'editions'>): Option[] {
  return product.editions.flatMap((edition) => edition.prices.map((option) => ({ edition, option })));
}

/** The first way to buy a product: what is taken where nobody chooses. */
export function firstOption(product: Pick<Product, 'editions'>): Option {
  const [first] = optionsOf(product);
  if (!first) throw new RangeError('This product has no price.');
  return first;
}

/** Whether a product costs nothing in every way it is offered. */
export function isFree(product: Pick<Product, 'editions'>): boolean {
  return optionsOf(product).every(({ option }) => option.price.kind === 'free');
}

/** What an edition is and how it is taxed: its own, else the product's. */
export function natureOf(product: Pick<Product, 'kind' | 'taxClass'>, edition: Pick<Edition, 'kind' | 'taxClass'> | undefined) {
  return { kind: edition?.kind ?? product.kind, taxClass: edition?.taxClass ?? product.taxClass };
}

/** Kinds and parts, which say whether something is shipped. */
type Sendable = Pick<Product, 'kind' | 'taxClass' | 'bundle' | 'editions'>;

/**
 * The editions of a product that are shipped, whole or in part.
 * @param find finds the parts of a bundle
 */
export function sentEditions(product: Sendable, find: (productId: string) => Sendable | undefined): Edition[] {
  if (product.bundle.length === 0) return product.editions.filter((edition) => natureOf(product, edition).kind === 'physical');
  const isPartSent = product.bundle.some(({ productId, editionId }) => {
    const part = find(productId);
    return part && natureOf(part, part.editions.find((edition) => edition.id === editionId) ?? part.editions[0]).kind === 'physical';
  });
  return isPartSent ? product.editions : [];
}

/** What a product says after the purchase: the price's own words where it has some. */
export function confirmationOf(product: Pick<Product, 'confirmation' | 'editions'>, priceId: string | null): Confirmation {
  return optionsOf(product).find(({ option }) => option.id === priceId)?.option.confirmation ?? product.confirmation;
}
