import { z } from 'zod';

export const DeviceSchema = z.enum(['phone', 'tablet', 'desktop']);
export type Device = z.infer<typeof DeviceSchema>;

/** Where a visit came from: the UTM parameters of its first address, each at most 100 characters. */
export const CampaignSchema = z.object({ source: z.string(), medium: z.string(), campaign: z.string(), content: z.string(), term: z.string() }).partial();
export type Campaign = z.infer<typeof CampaignSchema>;

/** One thing that somebody has bought, as conditions ask for it. */
export const PurchaseSchema = z.object({
  productId: z.string(),
  editionId: z.string().nullable().default(null),
  priceId: z.string().nullable().default(null),
  role: z.string().default('main').describe('main, bump, upsell or downsell'),
  quantity: z.int().default(1),
  categories: z.array(z.string()).default([]),
  tags: z.array(z.string()).default([]),
});
export type Purchase = z.infer<typeof PurchaseSchema>;

/** A moment in the shop's own zone. */
export const LocalMomentSchema = z.object({
  hour: z.int().min(0).max(23),
  weekday: z.int().min(1).max(7).describe('ISO 8601: Monday is 1'),
  date: z.string().describe('2026-03-31'),
});

/**
 * What is known of a buyer when a condition is asked. What is missing is unknown; an empty list or null is known to be
 * nothing.
 */
export const FactsSchema = z
  .object({
    owned: z.array(PurchaseSchema).describe('Everything bought or received before, in any order'),
    bought: z.array(PurchaseSchema).describe('On the present order'),
    orderTotal: z.int().describe('Goods after discounts without tax and shipping, minor units'),
    code: z.string().nullable().describe('The discount code that was used'),
    paymentMethod: z.string().nullable(),
    shippingMethod: z.string().nullable().describe('The zone whose rate was paid'),
    country: z.string().describe('Of the billing address'),
    shippingCountry: z.string().nullable(),
    tags: z.array(z.string()).describe('Of the contact'),
    answers: z.record(z.string(), z.string()).describe('To form questions'),
    firstCampaign: CampaignSchema.nullable(),
    lastCampaign: CampaignSchema.nullable(),
    device: DeviceSchema,
    language: z.string().describe('ISO 639, lower case: pt'),
    returning: z.boolean().describe('Has been here in an earlier visit'),
    declined: z.array(z.string()).describe('Steps on which an offer was declined in the present order'),
    seen: z.array(z.string()).describe('Steps whose page was seen, on any visit'),
    openedCheckout: z.boolean().describe('Has opened a checkout of the shop, on any visit'),
    now: LocalMomentSchema,
  })
  .partial();
export type Facts = z.infer<typeof FactsSchema>;
