import { type ShippingTable, ShippingTableSchema, TAX_RATES_EU, type TaxTable, taxRatesEu } from '@ruta/core/pricing';

/** Each once: a country whose rates change has several rows. */
const EU = [...new Set(TAX_RATES_EU.map((row) => row.country))].filter((country) => country !== 'PT' && country !== 'ES');

/** The rates that ship with Ruta, and those of the other countries Perigee Lane sells to. */
export function taxRates(timeZone: string): TaxTable {
  return [
    ...taxRatesEu(timeZone),
    { country: 'GB', standard: 20, reduced: 0, digital: 20 },
    { country: 'NO', standard: 25, reduced: 15, digital: 25 },
    { country: 'CH', standard: 8.1, reduced: 2.6, digital: 8.1 },
    { country: 'CA', standard: 5, reduced: 5, digital: 5 },
    { country: 'CA', region: 'Ontario', standard: 13, reduced: 5, digital: 13 },
    { country: 'CA', region: 'Quebec', standard: 14.975, reduced: 5, digital: 14.975 },
  ];
}

/** Where Perigee Lane sends its parcels. */
export const SHIPPING: ShippingTable = ShippingTableSchema.parse([
  { name: 'Iberia', countries: ['PT', 'ES'], rate: { kind: 'flat', amount: 3_50 }, freeFrom: 60_00 },
  {
    name: 'European Union',
    countries: EU,
    rate: {
      kind: 'weight',
      bands: [
        { upTo: 250, amount: 5_90 },
        { upTo: 1000, amount: 8_90 },
        { upTo: null, amount: 14_90 },
      ],
    },
    freeFrom: 90_00,
  },
  {
    name: 'Rest of Europe',
    countries: ['GB', 'NO', 'CH'],
    rate: {
      kind: 'weight',
      bands: [
        { upTo: 250, amount: 7_90 },
        { upTo: null, amount: 12_90 },
      ],
    },
  },
  {
    name: 'North America',
    countries: ['US', 'CA'],
    rate: {
      kind: 'value',
      bands: [
        { upTo: 50_00, amount: 12_90 },
        { upTo: null, amount: 9_90 },
      ],
    },
  },
]);
