import path from 'node:path';
import type { Brand } from '@ruta/core/shop';
import { BASIC_CHARACTERS, fontFiles } from '@ruta/pages';
import * as fontkit from 'fontkit';
import sharp from 'sharp';
import type { Config } from '../base/config';
import type { IconSide } from '../files/madePictures';

const SIDE = 32;
/** The letter's size in the square, and how much of a letter's size a capital is high where the typeface does not tell. */
const LETTER = 21;
const CAPITAL = 0.7;

/** The outline of a letter in the typeface of a brand's headlines, in the middle of the square; nothing where the typeface has no such letter. */
async function outlineOf(letter: string, brand: Brand, fonts: string): Promise<string | null> {
  const [file] = fontFiles(brand);
  if (!file || !BASIC_CHARACTERS.includes(letter)) return null;
  const font = await fontkit.open(path.join(fonts, file));
  if (!('layout' in font)) return null;
  const [glyph] = font.layout(letter).glyphs;
  if (!glyph) return null;
  const scale = LETTER / font.unitsPerEm;
  const left = (SIDE - glyph.advanceWidth * scale) / 2;
  const foot = (SIDE + (font.capHeight || font.unitsPerEm * CAPITAL) * scale) / 2;
  return `<path transform="translate(${left.toFixed(2)} ${foot.toFixed(2)}) scale(${scale.toFixed(5)} ${(-scale).toFixed(5)})" d="${glyph.path.toSVG()}"/>`;
}

/** The icon of a shop that has none of its own: its first letter in its colours, as SVG. */
export async function letterIcon(name: string, brand: Brand, { assets }: Pick<Config, 'assets'>): Promise<string> {
  const letter = ([...name.trim()][0] ?? 'R').toUpperCase().replace(/[<&]/g, '');
  const drawn =
    (await outlineOf(letter, brand, assets.fonts)) ?? `<text x="16" y="23" font-family="Georgia,serif" font-size="20" text-anchor="middle">${letter}</text>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${SIDE} ${SIDE}"><rect width="${SIDE}" height="${SIDE}" rx="6" fill="${brand.main}"/><g fill="${brand.ground}">${drawn}</g></svg>`;
}

/** The same as PNG. */
export const pngOf = (svg: string, side: IconSide): Promise<Buffer> =>
  sharp(Buffer.from(svg), { density: (72 * side) / SIDE })
    .resize(side, side)
    .png()
    .toBuffer();
