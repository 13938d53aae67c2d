import { existsSync } from 'node:fs';
import path from 'node:path';
import type { PictureInfo } from '@ruta/core/catalog';
import sharp from 'sharp';
import { writeWhole } from '../base/durable';
import type { Services } from '../base/services';
import { picturePath } from './store';

type Needs = Pick<Services, 'config'>;

/** The size that networks and messengers show of a link, in pixels; all of them read JPEG, some no WebP. */
export const SHARED_SIZE = { width: 1200, height: 630 };
/** Shapes, as width by height, that lose little when they are cut to the shared one. */
const CUT_SHAPES = { from: 1.3, to: 2.9 };

/** What is made of a picture on disk once and kept beside it. */
async function madeOnce(services: Needs, { id }: PictureInfo, name: string, make: () => Promise<Buffer>): Promise<string> {
  const file = path.join(services.config.dataDir, 'pictures', `${id}-${name}`);
  // Nobody is ever sent half of it.
  if (!existsSync(file)) writeWhole(file, await make());
  return file;
}

const largest = (services: Needs, { id, widths }: PictureInfo) => picturePath(services, id, widths.at(-1) ?? 0, 'webp');

/**
 * The picture shown where a link is shared, as JPEG: cut to its shape, or, where too much of it would be lost, whole before its own colours.
 * @returns where it lies
 */
export function sharedPicture(services: Needs, picture: PictureInfo): Promise<string> {
  return madeOnce(services, picture, 'shared.jpg', async () => {
    const source = await sharp(largest(services, picture)).flatten({ background: '#ffffff' }).toBuffer();
    const ground = sharp(source).resize({ ...SHARED_SIZE, fit: 'cover' });
    const shape = picture.width / picture.height;
    if (shape < CUT_SHAPES.from || shape > CUT_SHAPES.to) {
      const whole = await sharp(source)
        .resize({ ...SHARED_SIZE, fit: 'inside' })
        .toBuffer();
      ground.blur(36).modulate({ brightness: 0.8 });
      return sharp(await ground.toBuffer())
        .composite([{ input: whole }])
        .jpeg({ quality: 84 })
        .toBuffer();
    }
    return ground.jpeg({ quality: 84 }).toBuffer();
  });
}

/**
 * The smallest size of a picture as PNG, for mail programs, which read no WebP.
 * @returns where it lies
 */
export function pictureForMail(services: Needs, picture: PictureInfo): Promise<string> {
  const [width = 0] = picture.widths;
  return madeOnce(services, picture, `${width}.png`, () =>
    sharp(picturePath(services, picture.id, width, 'webp'))
      .png()
      .toBuffer(),
  );
}

/** Sides of an icon's sizes in pixels: for tabs, for screens of telephones, and for where programs are kept. */
export const ICON_SIDES = [16, 32, 180, 192, 512] as const;
export type IconSide = (typeof ICON_SIDES)[number];

/** A picture as a square icon, as PNG. @returns where it lies */
export function iconPicture(services: Needs, picture: PictureInfo, side: IconSide): Promise<string> {
  return madeOnce(services, picture, `icon-${side}.png`, () =>
    sharp(largest(services, picture)).resize({ width: side, height: side, fit: 'contain', background: '#0000' }).png().toBuffer(),
  );
}

/** Bytes of an ICO file's head, and of each entry in it. */
const HEAD = 6;
const ENTRY = 16;

/** Pictures of one icon in an ICO file, which old browsers and other programs ask a site for: a head, an entry for each, and the PNGs. */
export function icoOf(pictures: ReadonlyArray<{ side: IconSide; png: Buffer }>): Buffer {
  const head = Buffer.alloc(HEAD + ENTRY * pictures.length);
  head.writeUInt16LE(1, 2);
  head.writeUInt16LE(pictures.length, 4);
  let offset = head.length;
  for (const [index, { side, png }] of pictures.entries()) {
    const entry = HEAD + ENTRY * index;
    // A side of 256 and more is written as zero.
    head.writeUInt8(side < 256 ? side : 0, entry);
    head.writeUInt8(side < 256 ? side : 0, entry + 1);
    head.writeUInt16LE(1, entry + 4);
    head.writeUInt16LE(32, entry + 6);
    head.writeUInt32LE(png.length, entry + 8);
    head.writeUInt32LE(offset, entry + 12);
    offset += png.length;
  }
  return Buffer.concat([head, ...pictures.map(({ png }) => png)]);
}
