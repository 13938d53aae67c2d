import { litMoon } from './moon';
import { AMBER, CREAM, hills, MIDNIGHT, stars, svg } from './pictures';

const W = 800;
const H = 720;
const night = (body: string, ground = MIDNIGHT) => svg(W, H, `<rect width="${W}" height="${H}" fill="${ground}"/>${body}`);

/** A printed disc with a window onto the sky. */
export function starWheel(): string {
  const marks = Array.from({ length: 72 }, (_, i) => {
    const angle = (i * Math.PI) / 36;
    const inner = i % 6 === 0 ? 262 : 274;
    return `<line x1="${(400 + Math.cos(angle) * inner).toFixed(1)}" y1="${(360 + Math.sin(angle) * inner).toFixed(1)}" x2="${(400 + Math.cos(angle) * 288).toFixed(1)}" y2="${(360 + Math.sin(angle) * 288).toFixed(1)}" stroke="${MIDNIGHT}" stroke-width="3"/>`;
  }).join('');
  return night(
    `<circle cx="400" cy="360" r="304" fill="${CREAM}"/>${marks}<g><clipPath id="w"><ellipse cx="400" cy="392" rx="210" ry="172"/></clipPath><g clip-path="url(#w)"><rect width="${W}" height="${H}" fill="${MIDNIGHT}"/>${stars(41, W, H, 220)}<path d="M250 330 L330 300 L398 350 L476 322 L560 380" fill="none" stroke="${CREAM}" stroke-width="2" opacity=".7"/></g><ellipse cx="400" cy="392" rx="210" ry="172" fill="none" stroke="${AMBER}" stroke-width="8"/></g><circle cx="400" cy="360" r="9" fill="${AMBER}"/>`,
    '#27315E',
  );
}

/** A small lamp with a red light. */
export function redTorch(): string {
  return night(
    `${stars(51, W, 420, 90)}<defs><radialGradient id="r" cx=".5" cy=".1" r="1"><stop offset="0" stop-color="#E0483A" stop-opacity=".85"/><stop offset="1" stop-color="#E0483A" stop-opacity="0"/></radialGradient></defs><path d="M360 330 L120 700 H680 L440 330Z" fill="url(#r)"/><rect x="352" y="120" width="96" height="170" rx="12" fill="#3A4270"/><rect x="340" y="280" width="120" height="54" rx="10" fill="${CREAM}"/><circle cx="400" cy="180" r="13" fill="${AMBER}"/>`,
  );
}

/** A book with an eclipsed sun on its cover. */
export function eclipseGuide(): string {
  const rays = Array.from({ length: 24 }, (_, i) => {
    const angle = (i * Math.PI) / 12;
    return `<line x1="${(400 + Math.cos(angle) * 142).toFixed(1)}" y1="${(330 + Math.sin(angle) * 142).toFixed(1)}" x2="${(400 + Math.cos(angle) * (i % 2 ? 170 : 196)).toFixed(1)}" y2="${(330 + Math.sin(angle) * (i % 2 ? 170 : 196)).toFixed(1)}" stroke="${AMBER}" stroke-width="5" stroke-linecap="round"/>`;
  }).join('');
  return night(
    `<rect x="170" y="60" width="460" height="600" rx="10" fill="#0B1024"/><rect x="170" y="60" width="34" height="600" fill="#090C1B"/>${rays}<circle cx="400" cy="330" r="122" fill="${AMBER}"/><circle cx="408" cy="326" r="118" fill="#0B1024"/><text x="420" y="580" font-family="Georgia,serif" font-size="40" text-anchor="middle" fill="${CREAM}">Eclipse Field Guide</text>`,
    '#3B466F',
  );
}

/** A sheet of paper with a half-drawn moon and a pencil. */
export function sketching(): string {
  return night(
    `<rect x="120" y="70" width="520" height="590" rx="4" fill="${CREAM}" transform="rotate(-3 400 360)"/><circle cx="370" cy="340" r="170" fill="none" stroke="${MIDNIGHT}" stroke-width="3"/><path d="${litMoon(0.3, 370, 340, 170)}" fill="#CFC5A6"/><g fill="none" stroke="${MIDNIGHT}" stroke-width="2.5"><circle cx="430" cy="280" r="28"/><circle cx="452" cy="372" r="18"/><circle cx="400" cy="430" r="24"/><path d="M470 300 l26 40"/></g><path d="M520 600 L690 430 L714 454 L544 624 L508 636Z" fill="${AMBER}"/><path d="M520 600 L544 624 L508 636Z" fill="${MIDNIGHT}"/>`,
    '#2B3568',
  );
}

/** Lit windows under one sky: the club. */
export function club(): string {
  const houses = [
    [90, 470],
    [230, 520],
    [380, 450],
    [520, 500],
    [650, 470],
  ]
    .map(
      ([x, y]) =>
        `<path d="M${x} ${H} V${y} l46 -44 l46 44 V${H}Z" fill="#090D20"/><rect x="${(x ?? 0) + 34}" y="${(y ?? 0) + 34}" width="24" height="30" fill="${AMBER}"/>`,
    )
    .join('');
  return night(`${stars(61, W, 430, 190)}<path d="${litMoon(0.12, 610, 150, 62)}" fill="${CREAM}"/>${hills(W, H, 90, '#0E142C', 6)}${houses}`);
}

/** A garden seen from above with the paths of stars over it. */
export function skyPlan(): string {
  const arcs = [120, 180, 240, 300]
    .map(
      (r) =>
        `<path d="M${400 - r} 520 A${r} ${r} 0 0 1 ${400 + r} 520" fill="none" stroke="${CREAM}" stroke-width="2.5" stroke-dasharray="2 12" stroke-linecap="round"/>`,
    )
    .join('');
  return night(
    `${stars(71, W, 480, 60)}${arcs}<rect y="520" width="${W}" height="200" fill="#0B1024"/><path d="M300 520 v-70 l60 -46 l60 46 v70Z" fill="#27315E"/><circle cx="560" cy="490" r="52" fill="#16203F"/><rect x="553" y="500" width="14" height="40" fill="#0E142C"/><circle cx="640" cy="276" r="9" fill="${AMBER}"/><circle cx="220" cy="360" r="7" fill="${AMBER}"/>`,
    '#1A2347',
  );
}

/** A folded map with dark places marked. */
export function darkMaps(): string {
  const folds = [0, 1, 2, 3]
    .map(
      (i) =>
        `<path d="M${130 + i * 135} ${i % 2 ? 150 : 120} L${265 + i * 135} ${i % 2 ? 120 : 150} V${i % 2 ? 590 : 620} L${130 + i * 135} ${i % 2 ? 620 : 590}Z" fill="${i % 2 ? '#E9DFC3' : CREAM}"/>`,
    )
    .join('');
  const places = [
    [210, 270, 44],
    [340, 430, 60],
    [470, 250, 36],
    [590, 470, 52],
  ]
    .map(([x, y, r]) => `<circle cx="${x}" cy="${y}" r="${r}" fill="${MIDNIGHT}" opacity=".85"/><circle cx="${x}" cy="${y}" r="5" fill="${AMBER}"/>`)
    .join('');
  return night(`${folds}<path d="M150 520 Q300 420 420 500 T660 380" fill="none" stroke="#A79B78" stroke-width="5"/>${places}`, '#3B466F');
}
