import { z } from 'zod';
import { idSchema } from '../ids';
import { LOOK_NAMES } from './looks';

/** A page's ground is clearly light or clearly dark, so that one ink is readable on all its shades. */
const LIGHT_GROUND = 0.55;
const DARK_GROUND = 0.06;

const ColourSchema = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'A colour is written like #141B38.');

/** A typeface that ships with Ruta; `slug` names its files. */
export interface Typeface {
  family: string;
  slug: string;
  fallback: string;
}

const face = (family: string, slug: string, fallback: string): Typeface => ({ family, slug, fallback });
const NEWSREADER = face('Newsreader', 'newsreader', 'Georgia, serif');
const LORA = face('Lora', 'lora', 'Georgia, serif');
const FRAUNCES = face('Fraunces', 'fraunces', 'Georgia, serif');
const BITTER = face('Bitter', 'bitter', 'Georgia, serif');
const FIGTREE = face('Figtree', 'figtree', 'system-ui, sans-serif');
const KARLA = face('Karla', 'karla', 'system-ui, sans-serif');
const NUNITO = face('Nunito Sans', 'nunito-sans', 'system-ui, sans-serif');
const EPILOGUE = face('Epilogue', 'epilogue', 'system-ui, sans-serif');
const WORK = face('Work Sans', 'work-sans', 'system-ui, sans-serif');
const ARCHIVO = face('Archivo', 'archivo', 'system-ui, sans-serif');
const OSWALD = face('Oswald', 'oswald', 'system-ui, sans-serif');
const INSTRUMENT = face('Instrument Sans', 'instrument-sans', 'system-ui, sans-serif');
const LITERATA = face('Literata', 'literata', 'Georgia, serif');

/** Pairs of typefaces for headings and running text. */
export const FONT_PAIRS = {
  newsreader: { name: 'Newsreader with Figtree', heading: NEWSREADER, body: FIGTREE },
  lora: { name: 'Lora with Karla', heading: LORA, body: KARLA },
  fraunces: { name: 'Fraunces with Nunito Sans', heading: FRAUNCES, body: NUNITO },
  bitter: { name: 'Bitter with Work Sans', heading: BITTER, body: WORK },
  'newsreader-karla': { name: 'Newsreader with Karla', heading: NEWSREADER, body: KARLA },
  epilogue: { name: 'Epilogue with Karla', heading: EPILOGUE, body: KARLA },
  figtree: { name: 'Figtree throughout', heading: FIGTREE, body: FIGTREE },
  nunito: { name: 'Nunito Sans throughout', heading: NUNITO, body: NUNITO },
  work: { name: 'Work Sans throughout', heading: WORK, body: WORK },
  archivo: { name: 'Archivo with Figtree', heading: ARCHIVO, body: FIGTREE },
  oswald: { name: 'Oswald with Work Sans', heading: OSWALD, body: WORK },
  literata: { name: 'Literata with Nunito Sans', heading: LITERATA, body: NUNITO },
  instrument: { name: 'Instrument Sans throughout', heading: INSTRUMENT, body: INSTRUMENT },
} as const satisfies Record<string, { name: string; heading: Typeface; body: Typeface }>;
export type FontPair = keyof typeof FONT_PAIRS;
const fontPairs = Object.keys(FONT_PAIRS) as [FontPair, ...FontPair[]];

/** The seller's look, set once and taken by pages, checkout, receipts and mails. */
export const BrandSchema = z.object({
  main: ColourSchema,
  accent: ColourSchema,
  ground: ColourSchema.refine((colour) => luminance(colour) >= LIGHT_GROUND || luminance(colour) <= DARK_GROUND, {
    message: 'Choose a lighter or a darker ground; words would be hard to read on this one.',
  }),
  fonts: z.enum(fontPairs),
  corner: z.int().min(0).max(24),
  /** The character of its pages; one from before there were looks is plain. */
  look: z.enum(LOOK_NAMES).optional(),
  /** The sign that stands for the name in headers, and on mails; without one it is the name in the headline's type. */
  logoId: idSchema('file').nullable().optional(),
  /** What stands in the browser's tab. */
  iconId: idSchema('file').nullable().optional(),
  buttons: z.enum(['square', 'rounded', 'pill']).optional().describe('Form of buttons and fields; without it as the look has it'),
  pictures: z.enum(['plain', 'framed', 'soft', 'toned']).optional().describe('Treatment of pictures; without it as the look has it'),
});
export type Brand = z.infer<typeof BrandSchema>;

export const DEFAULT_BRAND: Brand = { main: '#1F3A34', accent: '#B5542B', ground: '#FAF8F3', fonts: 'figtree', corner: 6 };

export interface Palette {
  ground: string;
  tint: string;
  sheet: string;
  dark: string;
  ink: string;
  softInk: string;
  onDark: string;
  softOnDark: string;
  accent: string;
  onAccent: string;
  /** The accent made readable as text on the page's ground. */
  accentInk: string;
  accentOnDark: string;
  line: string;
}

/** Contrast that WCAG 2.2 AA asks of running text. */
const AA = 4.5;

/** Every colour of a page, made from the brand's three; text always has at least 4.5 : 1 on what it stands on. */
export function paletteOf(brand: Brand): Palette {
  const { ground, main, accent } = brand;
  const tint = mix(ground, main, 0.06);
  const sheet = mix(ground, '#FFFFFF', luminance(ground) >= LIGHT_GROUND ? 0.75 : 0.06);
  const readable = (colour: string, on: string[]) => on.reduce((result, surface) => ensureContrast(result, surface), colour);
  return {
    ground,
    tint,
    sheet,
    dark: main,
    ink: readable(main, [ground, tint, sheet]),
    softInk: readable(mix(main, ground, 0.25), [ground, tint, sheet]),
    onDark: readable(ground, [main]),
    softOnDark: readable(mix(ground, main, 0.2), [main]),
    accent,
    onAccent: readable(luminance(accent) > 0.35 ? mix(main, '#000000', 0.3) : '#FFFFFF', [accent]),
    accentInk: readable(accent, [ground, tint, sheet]),
    accentOnDark: readable(accent, [main]),
    line: mix(ground, main, 0.18),
  };
}

type Rgb = [number, number, number];
const toRgb = (hex: string): Rgb => [1, 3, 5].map((start) => Number.parseInt(hex.slice(start, start + 2), 16)) as Rgb;
const toHex = (rgb: Rgb) => `#${rgb.map((part) => Math.round(part).toString(16).padStart(2, '0')).join('')}`.toUpperCase();

/** Mixes two colours in sRGB; `share` is how much of the second, 0 to 1. */
export function mix(first: string, second: string, share: number): string {
  const a = toRgb(first);
  const b = toRgb(second);
  return toHex(a.map((part, i) => part + ((b[i] ?? 0) - part) * share) as Rgb);
}

/** Relative luminance of a colour, 0 to 1 (WCAG 2.2). */
export function luminance(hex: string): number {
  const [r, g, b] = toRgb(hex).map((part) => {
    const s = part / 255;
    return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
  }) as Rgb;
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** Contrast ratio of two colours, 1 to 21 (WCAG 2.2). */
export function contrast(first: string, second: string): number {
  const [dark, light] = [luminance(first), luminance(second)].sort((a, b) => a - b) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

/** Moves a colour towards black or white, whichever gains contrast, until it reaches AA on the surface. */
function ensureContrast(colour: string, surface: string): string {
  const towards = luminance(surface) > 0.18 ? '#000000' : '#FFFFFF';
  let result = colour;
  for (let share = 0.1; contrast(result, surface) < AA && share <= 1.0001; share += 0.1) result = mix(colour, towards, Math.min(1, share));
  return result;
}
