import type { Campaign, Device } from '@ruta/core/facts';
import { moonPhase } from './moon';
import { FIRST_NAMES, LAST_NAMES, MAIL_HOSTS } from './people';
import { pick, seeded } from './random';

const DAY_MS = 24 * 60 * 60 * 1000;
const HOUR_MS = 60 * 60 * 1000;

export interface PastVisitor {
  at: number;
  device: Device;
  campaign: Campaign | null;
  /** The code of the partner by whose link they came; null for nobody's. */
  partner: string | null;
  agent: number;
  /** Who they are, if they say so. */
  person: { firstName: string; lastName: string; email: string; country: string; answers: Record<string, string> };
  isLead: boolean;
  /** How much more or less willing they are than others: by source, device and moon. */
  lift: number;
  fetches: boolean;
}

/** How many come to a funnel a day, and what part of them does what. */
export interface Rates {
  perDay: number;
  goesOn: number;
  begins: number;
  pays: number;
  bump: number;
  upsell: number;
  downsell: number;
  code: number;
}

/** Of those whom a source suits, so many leave an address. */
const LEADS = 0.7;

const SOURCES: ReadonlyArray<{ share: number; campaign: Campaign | null; lead: number; buy: number; partner?: string }> = [
  { share: 0.3, campaign: { source: 'skylark', medium: 'ad', campaign: 'long-nights' }, lead: 0.24, buy: 0.05 },
  { share: 0.24, campaign: { source: 'letter', medium: 'email', campaign: 'weekly-letter' }, lead: 0.42, buy: 0.16 },
  { share: 0.14, campaign: { source: 'radio', medium: 'interview', campaign: 'night-radio' }, lead: 0.38, buy: 0.1 },
  { share: 0.08, campaign: { source: 'field-notes', medium: 'partner', campaign: 'marisol' }, lead: 0.34, buy: 0.12, partner: 'marisol' },
  { share: 0.04, campaign: { source: 'cloudy-club', medium: 'partner', campaign: 'cloudy-nights' }, lead: 0.34, buy: 0.12, partner: 'cloudy-club' },
  { share: 0.2, campaign: null, lead: 0.3, buy: 0.08 },
];

/** So many days ago the interview was aired once more: something unusual for the first page. */
const AIRED_AGAIN = 1;
/** Beside those of an ordinary day so many more of them came: no chance at any hour and in any phase of the moon. */
const AIRED_BRINGS = 0.4;
const RADIO = SOURCES[2];

/**
 * People who came in the past days, the same ones every time: weekends are better, full moons much better, and what
 * they do differs by source and device.
 * @param now Unix time in milliseconds
 */
export function pastVisitors(now: number, days: number, { perDay }: Pick<Rates, 'perDay'>, seed: number): PastVisitor[] {
  const random = seeded(seed);
  const visitors: PastVisitor[] = [];
  for (let day = days; day >= 1; day--) {
    const start = now - day * DAY_MS;
    const weekday = new Date(start).getUTCDay();
    const fullness = 1 - Math.abs(moonPhase(start) - 0.5) * 2;
    const growth = 0.75 + 0.5 * (1 - day / days);
    const count = Math.round(perDay * growth * (weekday === 0 || weekday === 6 ? 1.25 : 0.92) * (0.75 + 0.7 * fullness ** 3) * (0.85 + random() * 0.3));
    for (let i = 0; i < count; i++) {
      // Evenings are when people look at the sky.
      const hour = random() < 0.6 ? 17 + random() * 6 : random() * 24;
      const at = Math.min(now - 20 * 60_000, Math.floor(start - (start % DAY_MS) + hour * HOUR_MS));
      visitors.push(visitor(random, at, fullness));
    }
    if (day === AIRED_AGAIN)
      for (let i = 0; i < count * AIRED_BRINGS; i++)
        visitors.push(visitor(random, Math.floor(start - (start % DAY_MS) + 9 * HOUR_MS + random() * HOUR_MS * 5), fullness, RADIO));
  }
  return visitors.sort((a, b) => a.at - b.at);
}

function visitor(random: () => number, at: number, fullness: number, from?: (typeof SOURCES)[number]): PastVisitor {
  const spot = random();
  const source = from ?? SOURCES.find((_candidate, index) => spot < SOURCES.slice(0, index + 1).reduce((sum, { share }) => sum + share, 0)) ?? SOURCES.at(-1);
  const kind = random();
  const device: Device = kind < 0.64 ? 'phone' : kind < 0.71 ? 'tablet' : 'desktop';
  const lift = (device === 'phone' ? 0.94 : 1.1) * (0.9 + 0.25 * fullness);
  const isLead = random() < (source?.lead ?? 0.3) * LEADS * lift;
  const [firstName, country] = pick(random, FIRST_NAMES);
  const lastName = pick(random, LAST_NAMES);
  const plain =
    firstName
      .normalize('NFKD')
      .replace(/[^a-zA-Z]/g, '')
      .toLowerCase() || 'reader';
  const person = {
    firstName,
    lastName,
    country,
    email: `${plain}.${Math.floor(random() * 1e7).toString(36)}@${pick(random, MAIL_HOSTS)}`,
    answers: {
      'Where do you live?': pick(random, ['North of 45°', '25° to 45° north', '25° to 45° north', 'South of 25°']),
      'Have you a telescope?': pick(random, ['No', 'No', 'No', 'Yes, and I use it', 'Yes, in the attic']),
    },
  };
  const willing = lift * Math.sqrt((source?.buy ?? 0.08) / 0.1);
  return {
    at,
    device,
    campaign: source?.campaign ?? null,
    partner: source?.partner ?? null,
    agent: Math.floor(random() * 1e6),
    person,
    isLead,
    lift: willing,
    fetches: random() < 0.9,
  };
}
