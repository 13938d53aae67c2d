import { z } from 'zod';
import { LineRoleSchema, PriceSchema, ProductKindSchema, TaxClassSchema } from '../catalog';
import { CodeSchema, CodeUsesSchema } from '../codes';
import { AmountSchema } from '../money';
import { CountrySchema, ShopSchema } from '../shop';
import { OfferDiscountSchema } from './discount';
import { ShippingTableSchema } from './shippingTable';
import { TaxRegisterStateSchema } from './taxNumber';
import { TaxTableSchema } from './taxTable';

const WeightSchema = z.number().min(0).max(1_000_000_000);

/** One part of a bundle: what it is taxed and sent as, and what it weighs in the bundle's price. */
export const BundlePartSchema = z.object({
  productId: z.string(),
  editionId: z.string().optional(),
  name: z.string().default(''),
  kind: ProductKindSchema,
  taxClass: TaxClassSchema,
  weight: WeightSchema.default(0).describe('Grams of one'),
  regular: AmountSchema.describe('Regular price of one on its own, minor units'),
  quantity: z.int().min(1).max(999).default(1),
});
export type BundlePart = z.infer<typeof BundlePartSchema>;

/** One thing in the cart, with all that its price depends on. */
export const QuoteLineInputSchema = z.object({
  id: z.string().min(1),
  productId: z.string(),
  editionId: z.string().optional().describe('Carried through to the quote'),
  priceId: z.string().optional().describe('Carried through to the quote'),
  name: z.string(),
  role: LineRoleSchema,
  kind: ProductKindSchema,
  taxClass: TaxClassSchema,
  weight: WeightSchema.default(0).describe('Grams of one unit'),
  price: PriceSchema,
  chosen: AmountSchema.optional().describe('What the buyer chose to pay for one, minor units; the suggested amount if missing'),
  quantity: z.int('Enter a whole number.').min(1, 'Choose at least one.').max(9999, 'This is more than can be ordered at once.'),
  agreed: AmountSchema.optional().describe('What one was sold at, after every discount of its offer, minor units: a plan keeps it, whatever its price says'),
  discount: OfferDiscountSchema.optional().describe('The bump’s or offer’s own discount, for one unit'),
  alone: z.boolean().optional().describe('It must be bought alone: nothing else goes on the same order'),
  parts: z.array(BundlePartSchema).min(1).optional().describe('A bundle’s parts; kind and weight then come from them'),
});
export type QuoteLineInput = z.infer<typeof QuoteLineInputSchema>;

const PlaceSchema = z.object({ country: CountrySchema, region: z.string().optional() });

/** A line of the same order that was paid before a one-click addition. */
export const BoughtLineSchema = z.object({
  productId: z.string(),
  role: LineRoleSchema,
  kind: ProductKindSchema,
  taxClass: TaxClassSchema,
  weight: WeightSchema.default(0).describe('Grams of all units together'),
  amount: AmountSchema.describe('Before the code, minor units'),
  sent: z.boolean().optional().describe('False where its parcel has not gone out yet, as in a free trial'),
  value: AmountSchema.describe('After all discounts, gross or net as the shop’s prices are, minor units'),
  parts: z.array(BundlePartSchema).optional(),
});

/** What a one-click addition is added to. */
export const BoughtSchema = z.object({
  lines: z.array(BoughtLineSchema),
  shipping: AmountSchema.default(0).describe('Listed shipping paid before, gross or net as the shop’s prices are, minor units'),
});
export type Bought = z.infer<typeof BoughtSchema>;

/** Everything a quote depends on: the same input always gives the same quote. */
export const QuoteInputSchema = z
  .object({
    shop: ShopSchema.pick({ currency: true, country: true, timeZone: true, pricesIncludeTax: true }),
    taxTable: TaxTableSchema,
    shippingTable: ShippingTableSchema,
    lines: z.array(QuoteLineInputSchema).min(1, 'There is nothing in the cart.').max(200, 'These are more lines than one order can have.'),
    code: CodeSchema.optional(),
    codeUses: CodeUsesSchema.optional().describe('How often the code was used before, for its limits'),
    buyer: PlaceSchema.extend({
      shipTo: PlaceSchema.optional().describe('Where parcels go, if not to the billing address'),
      taxNumber: z.string().max(40).optional().describe('A business’s tax number; its format and check digits are checked'),
      register: TaxRegisterStateSchema.optional().describe('What the register of tax numbers says of it; without it only format and check digits count'),
      validTaxNumber: z
        .boolean()
        .optional()
        .describe('True where the number was found right elsewhere; then only its country is read here, the billing one where it names none'),
    }),
    bought: BoughtSchema.optional().describe('For one-click additions: what was bought and paid before in the same order'),
    sentClasses: z
      .array(TaxClassSchema)
      .optional()
      .describe('Tax classes of everything sent with the order that plan charges belong to, as shipping was taxed then'),
    now: z.int().describe('Unix time in milliseconds'),
  })
  .refine((input) => new Set(input.lines.map((line) => line.id)).size === input.lines.length, {
    message: 'Each line needs an id of its own.',
    path: ['lines'],
  });
export type QuoteInput = z.infer<typeof QuoteInputSchema>;
