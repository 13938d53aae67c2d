import { litMoon, moonPhase } from './moon';
import { seeded } from './random';

export const MIDNIGHT = '#141B38';
export const CREAM = '#F6EFDC';
export const AMBER = '#E3A23A';

export function stars(seed: number, width: number, height: number, count: number): string {
  const random = seeded(seed);
  return Array.from({ length: count }, () => {
    const size = 0.6 + random() ** 4 * 2.6;
    return `<circle cx="${(random() * width).toFixed(1)}" cy="${(random() * height).toFixed(1)}" r="${size.toFixed(1)}" fill="${CREAM}" opacity="${(0.35 + random() * 0.6).toFixed(2)}"/>`;
  }).join('');
}

export function hills(width: number, height: number, base: number, fill: string, seed: number): string {
  const random = seeded(seed);
  const points = Array.from({ length: 9 }, (_, i) => `${((width * i) / 8).toFixed(0)},${(height - base - random() * base * 0.9).toFixed(0)}`);
  return `<polygon points="0,${height} ${points.join(' ')} ${width},${height}" fill="${fill}"/>`;
}

export const svg = (width: number, height: number, body: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}">${body}</svg>`;

/** A night sky over low hills, to stand behind words. */
export function nightSky(): string {
  return svg(
    1600,
    900,
    `<rect width="1600" height="900" fill="${MIDNIGHT}"/>${stars(11, 1600, 760, 150)}${hills(1600, 900, 110, '#0E142C', 5)}${hills(1600, 900, 56, '#090D20', 8)}`,
  );
}

/** Tonight's kind of moon, large, with a few seas. */
export function crescent(): string {
  const lit = litMoon(0.16, 400, 360, 210);
  return svg(
    800,
    720,
    `<circle cx="400" cy="360" r="210" fill="#2C3660"/><path d="${lit}" fill="${CREAM}"/><g fill="#DDD2B4" opacity=".7"><circle cx="552" cy="300" r="22"/><circle cx="570" cy="390" r="14"/><circle cx="528" cy="452" r="18"/></g>`,
  );
}

/** A month of moons on a printed page. */
export function moonCalendar(month: number): string {
  const cells = Array.from({ length: 28 }, (_, day) => {
    const x = 118 + (day % 7) * 94;
    const y = 214 + Math.floor(day / 7) * 116;
    return `<circle cx="${x}" cy="${y}" r="30" fill="#D9D0B8"/><path d="${litMoon(moonPhase(month + day * 86_400_000), x, y, 30)}" fill="${AMBER}"/><text x="${x}" y="${y + 52}" font-family="Georgia,serif" font-size="18" text-anchor="middle" fill="${MIDNIGHT}">${day + 1}</text>`;
  });
  return svg(
    800,
    720,
    `<rect width="800" height="720" rx="14" fill="#1A2347"/>${stars(21, 800, 720, 70)}<rect x="52" y="60" width="696" height="610" rx="6" fill="${CREAM}"/><text x="84" y="132" font-family="Georgia,serif" font-size="46" font-weight="600" fill="${MIDNIGHT}">Moon Month</text>${cells.join('')}`,
  );
}

/** Somebody looking up from a hill: the course. */
export function firstLight(): string {
  const glow = `<defs><linearGradient id="sky" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="${MIDNIGHT}"/><stop offset=".72" stop-color="#2B3568"/><stop offset="1" stop-color="${AMBER}"/></linearGradient></defs>`;
  const person =
    '<g fill="#070A18"><circle cx="298" cy="470" r="17"/><path d="M278 588 L284 500 Q298 484 314 500 L322 588Z"/><path d="M312 506 L356 462 L364 470 L318 522Z"/></g>';
  return svg(
    800,
    720,
    `${glow}<rect width="800" height="720" fill="url(#sky)"/>${stars(31, 800, 460, 150)}<path d="M96 140 L206 104 L262 176 L388 150 L470 236 L602 214" fill="none" stroke="${CREAM}" stroke-width="1.6" opacity=".55"/>${[
      [96, 140],
      [206, 104],
      [262, 176],
      [388, 150],
      [470, 236],
      [602, 214],
    ]
      .map(([x, y]) => `<circle cx="${x}" cy="${y}" r="5" fill="${CREAM}"/>`)
      .join('')}${hills(800, 720, 70, '#0B1024', 4)}<path d="M0 720 V640 Q300 520 800 660 V720Z" fill="#070A18"/>${person}`,
  );
}
