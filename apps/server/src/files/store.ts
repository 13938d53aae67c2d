import { rmSync, statSync } from 'node:fs';
import { copyFile, open, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { PictureInfo } from '@ruta/core/catalog';
import { and, desc, eq, inArray } from 'drizzle-orm';
import sharp from 'sharp';
import type { Db } from '../base/db';
import { syncFiles, writeWhole } from '../base/durable';
import { newId } from '../base/ids';
import { fieldRefusal } from '../base/problem';
import type { Services } from '../base/services';
import { files } from './tables';

export const MAX_PICTURE_BYTES = 15 * 1024 * 1024;
export const MAX_DOWNLOAD_BYTES = 200 * 1024 * 1024;
const MAX_PIXELS = 60_000_000;
const PICTURE_WIDTHS = [480, 960, 1600];

type Needs = Pick<Services, 'db' | 'clock' | 'config'>;

export interface Upload {
  /** The file's name as the person sent it. */
  name: string;
  /** Where it lies now. */
  path: string;
  bytes: number;
}

/**
 * Keeps a picture as AVIF and WebP at several widths. What it is is told by its content, never by its name; SVG is
 * refused, since it can carry script.
 * @throws Refusal 400 at `file` if it is not a picture or too large
 */
export async function addPicture(services: Needs, upload: Upload): Promise<PictureInfo> {
  if (upload.bytes > MAX_PICTURE_BYTES) throw fieldRefusal('file', 'This picture is over 15 MB. Make it smaller and try again.', 413);
  const image = sharp(upload.path, { limitInputPixels: MAX_PIXELS, failOn: 'error' }).rotate();
  const metadata = await image.metadata().catch(() => null);
  if (!metadata?.width || !metadata.height || !['jpeg', 'png', 'webp', 'avif', 'gif', 'tiff', 'heif'].includes(metadata.format ?? '')) {
    throw fieldRefusal('file', 'This is not a picture we can read. Use JPEG, PNG, WebP, AVIF or GIF.');
  }
  const turned = (metadata.orientation ?? 1) >= 5;
  const width = turned ? metadata.height : metadata.width;
  const height = turned ? metadata.width : metadata.height;
  const widths = [...new Set(PICTURE_WIDTHS.map((target) => Math.min(target, width)))];
  const id = newId(services.clock, 'file');
  const sizes: Array<{ file: string; bytes: Buffer }> = [];
  try {
    for (const target of widths) {
      const resized = image.clone().resize({ width: target });
      for (const format of ['avif', 'webp'] as const) {
        const made = format === 'avif' ? resized.clone().avif({ quality: 55, effort: 2 }) : resized.clone().webp({ quality: 80 });
        sizes.push({ file: picturePath(services, id, target, format), bytes: await made.toBuffer() });
      }
    }
  } catch {
    throw fieldRefusal('file', 'This picture is damaged and could not be read to its end.');
  }
  await keepAll(sizes);
  services.db
    .insert(files)
    .values({ id, kind: 'picture', name: upload.name, contentType: 'image/webp', bytes: upload.bytes, width, height, widths, createdAt: services.clock.now() })
    .run();
  return { id, width, height, widths };
}

/** Writes files and waits until they are on the disk: all of them, or none. */
async function keepAll(all: ReadonlyArray<{ file: string; bytes: Buffer }>): Promise<void> {
  try {
    for (const { file, bytes } of all) await writeFile(file, bytes);
    await syncFiles(all.map(({ file }) => file));
  } catch (error) {
    for (const { file } of all) rmSync(file, { force: true });
    throw error;
  }
}

/** Copies a file and waits until it is on the disk: a row must not outlive what it names. */
async function keepCopy(from: string, to: string): Promise<void> {
  try {
    await copyFile(from, to);
    await syncFiles([to]);
  } catch (error) {
    rmSync(to, { force: true });
    throw error;
  }
}

/** Kinds that a browser would run rather than keep; they are handed out as plain bytes. */
const RUNNABLE = /html|svg|xml|javascript|ecmascript/i;

/** Keeps a file that buyers will receive, exactly as it came. @throws Refusal 400 at `file` if it is empty */
export async function addDownload(services: Needs, upload: Upload, contentType: string) {
  if (upload.bytes === 0) throw fieldRefusal('file', 'This file is empty.');
  const id = newId(services.clock, 'file');
  await keepCopy(upload.path, downloadPath(services, id));
  const row = {
    id,
    kind: 'download' as const,
    name: upload.name.slice(0, 200),
    contentType: RUNNABLE.test(contentType) ? 'application/octet-stream' : contentType,
    bytes: upload.bytes,
    createdAt: services.clock.now(),
  };
  services.db.insert(files).values(row).run();
  return row;
}

/** The first octets of video files that browsers play, and what they are. */
const VIDEO_KINDS: Array<{ type: string; at: number; octets: string }> = [
  { type: 'video/mp4', at: 4, octets: 'ftyp' },
  { type: 'video/webm', at: 0, octets: '\x1a\x45\xdf\xa3' },
  { type: 'video/ogg', at: 0, octets: 'OggS' },
];

/** Keeps a video for pages. What it is is told by its content. @throws Refusal 400 at `file` if browsers could not play it */
export async function addVideo(services: Needs, upload: Upload) {
  const file = await open(upload.path);
  const head = Buffer.alloc(16);
  await file.read(head, 0, 16, 0).finally(() => file.close());
  const kind = VIDEO_KINDS.find(({ at, octets }) => head.subarray(at, at + octets.length).toString('latin1') === octets);
  if (!kind) throw fieldRefusal('file', 'This is not a video that browsers play. Use MP4 or WebM.');
  const id = newId(services.clock, 'file');
  await keepCopy(upload.path, downloadPath(services, id));
  const row = { id, kind: 'video' as const, name: upload.name.slice(0, 200), contentType: kind.type, bytes: upload.bytes, createdAt: services.clock.now() };
  services.db.insert(files).values(row).run();
  return row;
}

/** Keeps a download made by our own code, for example in the sample shop. */
export function addDownloadContent(services: Needs, name: string, contentType: string, content: Buffer) {
  const id = newId(services.clock, 'file');
  writeWhole(downloadPath(services, id), content);
  const row = { id, kind: 'download' as const, name, contentType, bytes: content.length, createdAt: services.clock.now() };
  services.db.insert(files).values(row).run();
  return row;
}

/** A video of a page by its id. */
export const findVideo = (db: Db, id: string) =>
  db
    .select()
    .from(files)
    .where(and(eq(files.id, id), eq(files.kind, 'video')))
    .get();

/** The newest pictures that were uploaded, to be used again. */
export const recentPictures = (db: Db, limit: number) =>
  db
    .select()
    .from(files)
    .where(eq(files.kind, 'picture'))
    .orderBy(desc(files.createdAt), desc(files.id))
    .limit(limit)
    .all()
    .map((row) => ({ ...pictureInfo(row), name: row.name }));

export function picturePath(services: Pick<Services, 'config'>, id: string, width: number, format: 'avif' | 'webp' | 'png'): string {
  return path.join(services.config.dataDir, 'pictures', `${id}-${width}.${format}`);
}

export function downloadPath(services: Pick<Services, 'config'>, id: string): string {
  return path.join(services.config.dataDir, 'files', id);
}

/** Whether a file stands on the disk as it was kept: as long as it was, which a disk that failed or was filled up may have changed. */
export function isWhole(file: string, bytes: number): boolean {
  const found = statSync(file, { throwIfNoEntry: false });
  return found?.size === bytes;
}

/** Stored pictures by id; unknown ids are left out. */
export function findPictures(db: Db, ids: string[]): Record<string, PictureInfo> {
  if (ids.length === 0) return {};
  const rows = db.select().from(files).where(inArray(files.id, ids)).all();
  return Object.fromEntries(rows.flatMap((row) => (row.kind === 'picture' ? [[row.id, pictureInfo(row)]] : [])));
}

function pictureInfo(row: typeof files.$inferSelect): PictureInfo {
  return { id: row.id, width: row.width ?? 0, height: row.height ?? 0, widths: row.widths ?? [] };
}
