import { parseMoney, toDecimal } from '@ruta/core/money';
import { type ShippingTable, ShippingTableSchema } from '@ruta/core/pricing';

/** A zone while it is typed. */
export interface ZoneDraft {
  name: string;
  countries: string[];
  region: string;
  kind: 'flat' | 'weight' | 'value';
  amount: string;
  bands: Array<{ upTo: string; amount: string }>;
  freeFrom: string;
}

export function toZones(table: ShippingTable, currency: string): ZoneDraft[] {
  return table.map(({ name, countries, region, rate, freeFrom }) => ({
    name,
    countries,
    region: region ?? '',
    kind: rate.kind,
    amount: rate.kind === 'flat' ? toDecimal(rate.amount, currency) : '',
    bands:
      rate.kind === 'flat'
        ? [{ upTo: '', amount: '' }]
        : rate.bands.map((band) => ({
            upTo: band.upTo === null ? '' : rate.kind === 'value' ? toDecimal(band.upTo, currency) : String(band.upTo),
            amount: toDecimal(band.amount, currency),
          })),
    freeFrom: freeFrom === undefined ? '' : toDecimal(freeFrom, currency),
  }));
}

/** The table that the drafts stand for, or what is wrong with it by field, below `zones`. */
export function readZones(zones: ZoneDraft[], currency: string): { table: ShippingTable } | { errors: Record<string, string> } {
  const errors: Record<string, string> = {};
  const money = (path: string, text: string) => {
    const parsed = parseMoney(text, currency);
    if (parsed.ok) return parsed.amount;
    errors[path] = parsed.message;
    return undefined;
  };
  const table = zones.map(({ name, countries, region, kind, amount, bands, freeFrom }, index) => {
    const at = `zones.${index}`;
    const upTo = (path: string, text: string) => {
      if (text.trim() === '') return null;
      if (kind === 'value') return money(path, text);
      if (/^\d{1,9}$/.test(text.trim())) return Number(text);
      errors[path] = 'Enter whole grams, or leave it empty for any weight.';
      return undefined;
    };
    return {
      name,
      countries,
      ...(region.trim() ? { region: region.trim() } : {}),
      rate:
        kind === 'flat'
          ? { kind, amount: money(`${at}.amount`, amount) }
          : {
              kind,
              bands: bands.map((band, position) => ({
                upTo: upTo(`${at}.bands.${position}.upTo`, band.upTo),
                amount: money(`${at}.bands.${position}.amount`, band.amount),
              })),
            },
      ...(freeFrom.trim() ? { freeFrom: money(`${at}.freeFrom`, freeFrom) } : {}),
    };
  });
  const parsed = ShippingTableSchema.safeParse(table);
  if (!parsed.success) for (const issue of parsed.error.issues) errors[`zones.${issue.path.join('.').replace('.rate.', '.')}`] ??= issue.message;
  return parsed.success && Object.keys(errors).length === 0 ? { table: parsed.data } : { errors };
}
