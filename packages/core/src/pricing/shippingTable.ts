import { z } from 'zod';
import { AmountSchema } from '../money';
import { CountrySchema } from '../shop';

const BandSchema = z.object({
  upTo: z.number().min(0).nullable().describe('Upper bound, of weights included, of order values excluded; null is open'),
  amount: AmountSchema,
});

/** One place's shipping. Weight bands in grams, value bands in minor units; `freeFrom` in minor units, equality reaches it. */
export const ShippingZoneSchema = z.object({
  name: z.string().trim().min(1, 'Give the zone a name.').max(60, 'Keep the name under 60 characters.'),
  countries: z.array(CountrySchema).min(1, 'Choose at least one country.'),
  region: z.string().optional(),
  rate: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('flat'), amount: AmountSchema }),
    z.object({ kind: z.literal('weight'), bands: z.array(BandSchema).min(1, 'Enter at least one band.') }),
    z.object({ kind: z.literal('value'), bands: z.array(BandSchema).min(1) }),
  ]),
  freeFrom: AmountSchema.optional(),
});
export type ShippingZone = z.infer<typeof ShippingZoneSchema>;
/** Zones in their order. A place belongs to one zone only, and bands go upwards. */
export const ShippingTableSchema = z.array(ShippingZoneSchema).superRefine((table, context) => {
  const refuse = (path: Array<string | number>, message: string) => context.addIssue({ code: 'custom', path, message });
  const taken = new Map<string, string>();
  for (const [index, { name, countries, region, rate }] of table.entries()) {
    for (const country of countries) {
      const place = `${country} ${region ?? ''}`;
      const other = taken.get(place);
      if (other !== undefined) refuse([index, 'countries'], `${country} is in “${other}” already.`);
      else taken.set(place, name);
    }
    if (rate.kind === 'flat') continue;
    for (const [at, band] of rate.bands.entries()) {
      const before = rate.bands[at - 1];
      if (before && (before.upTo === null || (band.upTo !== null && band.upTo <= before.upTo))) {
        refuse(
          [index, 'rate', 'bands', at, 'upTo'],
          before.upTo === null ? 'A band without an upper bound must be the last one.' : 'Each band must go further than the one before it.',
        );
      }
    }
  }
});
export type ShippingTable = z.infer<typeof ShippingTableSchema>;

export interface ShippingCost {
  zone: string;
  /** Minor units; gross or net as the shop's prices are. */
  amount: number;
  /** How it came about, in plain words. */
  reason: string;
}

/** Why nothing can be sent at any rate of a table. */
export type NoRate = 'no-zone' | 'too-heavy' | 'no-band';

/**
 * What sending a parcel costs. A zone for the buyer's region comes before one for the whole country.
 * @param weight grams
 * @param value goods after discounts, minor units
 * @returns why there is no rate, if no zone or band fits
 */
export function shippingCost(
  table: ShippingTable,
  place: { country: string; region?: string | undefined },
  weight: number,
  value: number,
): ShippingCost | NoRate {
  const zones = table.filter((zone) => zone.countries.includes(place.country));
  const zone = zones.find((z) => z.region !== undefined && z.region === place.region) ?? zones.find((z) => z.region === undefined);
  if (!zone) return 'no-zone';
  if (zone.freeFrom !== undefined && value >= zone.freeFrom) return { zone: zone.name, amount: 0, reason: 'free from this order value' };
  if (zone.rate.kind === 'flat') return { zone: zone.name, amount: zone.rate.amount, reason: 'flat rate' };
  if (zone.rate.kind === 'weight') {
    const band = zone.rate.bands.find(({ upTo }) => upTo === null || weight <= upTo);
    return band ? { zone: zone.name, amount: band.amount, reason: `by weight, ${weight} g` } : 'too-heavy';
  }
  // A band by value begins at its lower bound, included, which is the upper bound of the one before it.
  const band = zone.rate.bands.find(({ upTo }) => upTo === null || value < upTo);
  return band ? { zone: zone.name, amount: band.amount, reason: 'by order value' } : 'no-band';
}
