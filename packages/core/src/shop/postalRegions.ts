/**
 * Countries whose addresses name a state, province or prefecture that the post needs (Universal Postal Union, addressing sheets);
 * elsewhere town and postcode are enough.
 */
const POSTAL_REGIONS: ReadonlySet<string> = new Set(['AE', 'AU', 'BR', 'CA', 'CN', 'IN', 'JP', 'KR', 'MX', 'US']);

/**
 * Whether the address of a parcel to a country needs a region that is typed: where the shop's tables tell regions apart, one of them
 * is chosen instead.
 * @param regions those that the tables tell apart
 */
export const isRegionTyped = (country: string, regions: readonly string[]): boolean => POSTAL_REGIONS.has(country) && regions.length === 0;
