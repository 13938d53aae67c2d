import { z } from 'zod';
import { BrandSchema, ShopSchema } from '../shop';
import { ShippingTableSchema, ShippingZoneSchema } from './shippingTable';
import { TaxRowSchema, TaxTableSchema } from './taxTable';

/**
 * The shop as the studio works with it: settings, look, and the tables that every price depends on. A table that breaks
 * a rule among its rows is shown all the same, so that it can be put right.
 */
export const ShopViewSchema = z.object({
  settings: ShopSchema,
  brand: BrandSchema,
  taxTable: z.array(TaxRowSchema),
  shippingTable: z.array(ShippingZoneSchema),
  siteUrl: z.string(),
  standinsUrl: z.string().nullable(),
  revisions: z
    .object({ settings: z.string(), brand: z.string(), taxTable: z.string(), shippingTable: z.string() })
    .describe('Stand for each part as it is now, for `If-Match`'),
});
export type ShopView = z.infer<typeof ShopViewSchema>;

/** What of the shop can be changed: the currency stays, since every price and past order is in it. */
export const ShopChangeSchema = ShopSchema.omit({ currency: true, mode: true });
export const TaxTableChangeSchema = z.object({ taxTable: TaxTableSchema });
export const ShippingTableChangeSchema = z.object({ shippingTable: ShippingTableSchema });
