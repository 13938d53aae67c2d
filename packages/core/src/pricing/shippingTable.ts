import { z } from 'zod';
import { AmountSchema } from '../money';
import { CountrySchema } from '../shop';

const BandSchema = z.object({ upTo: z.number().min(0).nullable().describe('Upper bound, included; null is open'), amount: AmountSchema });

/** One place's shipping. Weight bands in grams, value bands in minor units; `freeFrom` in minor units, equality reaches it. */
export const ShippingZoneSchema = z.object({
  name: z.string().min(1),
  countries: z.array(CountrySchema).min(1),
  region: z.string().optional(),
  rate: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('flat'), amount: AmountSchema }),
    z.object({ kind: z.literal('weight'), bands: z.array(BandSchema).min(1) }),
    z.object({ kind: z.literal('value'), bands: z.array(BandSchema).min(1) }),
  ]),
  freeFrom: AmountSchema.optional(),
});
export type ShippingZone = z.infer<typeof ShippingZoneSchema>;
export const ShippingTableSchema = z.array(ShippingZoneSchema);
export type ShippingTable = z.infer<typeof ShippingTableSchema>;

export interface ShippingCost {
  zone: string;
  /** Minor units; gross or net as the shop's prices are. */
  amount: number;
  /** How it came about, in plain words. */
  reason: string;
}

/**
 * What sending a parcel costs. A zone for the buyer's region comes before one for the whole country.
 * @param weight grams
 * @param value goods after discounts, minor units
 * @returns null if no zone or band fits
 */
export function shippingCost(
  table: ShippingTable,
  place: { country: string; region?: string | undefined },
  weight: number,
  value: number,
): ShippingCost | null {
  const zones = table.filter((zone) => zone.countries.includes(place.country));
  const zone = zones.find((z) => z.region !== undefined && z.region === place.region) ?? zones.find((z) => z.region === undefined);
  if (!zone) return null;
  if (zone.freeFrom !== undefined && value >= zone.freeFrom) return { zone: zone.name, amount: 0, reason: 'free from this order value' };
  if (zone.rate.kind === 'flat') return { zone: zone.name, amount: zone.rate.amount, reason: 'flat rate' };
  const measure = zone.rate.kind === 'weight' ? weight : value;
  const band = zone.rate.bands.find((b) => b.upTo === null || measure <= b.upTo);
  return band ? { zone: zone.name, amount: band.amount, reason: zone.rate.kind === 'weight' ? `by weight, ${weight} g` : 'by order value' } : null;
}
