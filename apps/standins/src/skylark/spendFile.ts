const DAY_MS = 24 * 60 * 60 * 1000;
const DAYS = 120;
const CAMPAIGNS = [
  { name: 'long-nights', budget: 76 },
  { name: 'long-nights-video', budget: 9 },
];

/** A number from 0 to 1 that is the same for the same day and campaign. */
const steady = (day: number, campaign: number) => ((day * 7919 + campaign * 104_729) % 997) / 997;

/**
 * What an ad platform lets one download: its own names of columns, days and decimals as they are written on the continent,
 * and a line of totals at the end.
 * @param now Unix time in milliseconds
 */
export function spendFile(now: number, currency: string): string {
  const cost = (amount: number) => amount.toFixed(2).replace('.', ',');
  let total = 0;
  const lines = Array.from({ length: DAYS }, (_, index) => DAYS - index).flatMap((ago) => {
    const at = new Date(now - ago * DAY_MS);
    const day = Math.floor(at.getTime() / DAY_MS);
    const written = `${String(at.getUTCDate()).padStart(2, '0')}.${String(at.getUTCMonth() + 1).padStart(2, '0')}.${at.getUTCFullYear()}`;
    return CAMPAIGNS.map(({ name, budget }, campaign) => {
      const spent = Math.round(budget * (0.75 + 0.5 * steady(day, campaign)) * 100) / 100;
      total += spent;
      return `${written};${name};${Math.round(spent * (1.3 + 0.3 * steady(day + 1, campaign)))};${cost(spent)};${currency}`;
    });
  });
  return ['Reporting day;Campaign name;Link clicks;Amount spent;Currency', ...lines, `Total;;;${cost(total)};${currency}`, ''].join('\r\n');
}
