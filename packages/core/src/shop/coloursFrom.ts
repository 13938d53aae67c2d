import { type Brand, mix } from './brand';

/** How far round the circle of hues the accent stands from the main colour: nearly opposite, so that both keep their voice. */
const TURN = 165;
const ACCENT = { saturation: 0.7, lightness: 0.54 };
/** The ground is white with a breath of the accent, light enough for every ink. */
const BREATH = 0.07;
/** Below this saturation a colour has no hue to speak of; the accent is then a warm one. */
const GREY = 0.08;
const WARM_HUE = 28;

/** A main colour with an accent and a ground that go with it. @param main as `#RRGGBB` */
export function coloursFrom(main: string): Pick<Brand, 'main' | 'accent' | 'ground'> {
  const { hue, saturation } = hueOf(main);
  const accent = hex({ hue: saturation < GREY ? WARM_HUE : (hue + TURN) % 360, ...ACCENT });
  return { main, accent, ground: mix('#FFFFFF', accent, BREATH) };
}

/** Hue in degrees and saturation of 0 to 1 of a colour (the HSL model of CSS Color 4). */
function hueOf(colour: string): { hue: number; saturation: number } {
  const [r = 0, g = 0, b = 0] = [1, 3, 5].map((start) => Number.parseInt(colour.slice(start, start + 2), 16) / 255);
  const [high, low] = [Math.max(r, g, b), Math.min(r, g, b)];
  const range = high - low;
  const lightness = (high + low) / 2;
  if (range === 0) return { hue: 0, saturation: 0 };
  const sector = high === r ? ((g - b) / range) % 6 : high === g ? (b - r) / range + 2 : (r - g) / range + 4;
  return { hue: (sector * 60 + 360) % 360, saturation: range / (1 - Math.abs(2 * lightness - 1)) };
}

/** A colour of a hue, as `#RRGGBB` (the inverse, by the formula of CSS Color 4). */
function hex({ hue, saturation, lightness }: { hue: number; saturation: number; lightness: number }): string {
  const reach = saturation * Math.min(lightness, 1 - lightness);
  const part = (n: number) => {
    const k = (n + hue / 30) % 12;
    const value = lightness - reach * Math.max(-1, Math.min(k - 3, 9 - k, 1));
    return Math.round(value * 255)
      .toString(16)
      .padStart(2, '0');
  };
  return `#${part(0)}${part(8)}${part(4)}`.toUpperCase();
}
