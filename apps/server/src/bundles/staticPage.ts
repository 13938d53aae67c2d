import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { type Zippable, zipSync } from 'fflate';
import { downloadPath, findVideo, picturePath } from '../files/store';
import { loadFunnel, loadStep, snapshotOf } from '../funnel/store';
import { renderStep } from '../site/renderStep';
import type { Tracked } from '../tracking/recorder';

/** Bytes of a file that is there; null for one that is not. */
const bytesOf = (file: string): Uint8Array | null => (existsSync(file) ? readFileSync(file) : null);

const VIDEO_ENDINGS: Record<string, string> = { 'video/mp4': 'mp4', 'video/webm': 'webm', 'video/ogg': 'ogv' };

/**
 * A page's draft as HTML, style, typefaces, pictures and script that open from a disk. What leads on leads to the shop.
 * @returns a ZIP file
 */
export function staticPage(services: Tracked, stepId: string): Uint8Array {
  const { db, config } = services;
  const { funnelId } = loadStep(db, stepId);
  const state = loadFunnel(db, funnelId);
  const step = state.graph.steps.find(({ id }) => id === stepId);
  const snapshot = snapshotOf(state);
  const page = snapshot.pages[stepId];
  if (!step || !page) throw new Error(`The funnel has no page for ${stepId}.`);
  const files: Zippable = {};
  /** Puts a file in beside the page, and gives its place there. */
  const put = (place: string, from: string, address: string): string => {
    const bytes = bytesOf(from);
    if (!bytes) return config.siteUrl + address;
    files[place] = bytes;
    return place;
  };
  const local = (text: string, up = '') =>
    text
      .replace(
        /\/media\/(fil_\w+)\/(\d+)\.(avif|webp)/g,
        (address, id: string, width: string, format: 'avif' | 'webp') =>
          up + put(`pictures/${id}-${width}.${format}`, picturePath(services, id, Number(width), format), address),
      )
      .replace(/\/assets\/fonts\/([\w.-]+)/g, (address, name: string) => up + put(`fonts/${name}`, path.join(config.assets.fonts, name), address))
      .replace(/\/assets\/scripts\/page\.js\?v=[\w-]+/g, (address) => up + put('scripts/page.js', path.join(config.assets.scripts, 'page.js'), address))
      .replace(/\/video\/(fil_\w+)/g, (address, id: string) => {
        const video = findVideo(db, id);
        return video ? up + put(`video/${id}.${VIDEO_ENDINGS[video.contentType] ?? 'mp4'}`, downloadPath(services, id), address) : address;
      });
  const html = renderStep(services, { publication: { id: '', funnelId, version: 0, at: 0, userId: null, snapshot }, step, page, arms: [], variant: '' });
  const style = /<style>(.*?)<\/style>/s.exec(html)?.[1] ?? '';
  const counted = html
    .replace(/<style>.*?<\/style>/s, '<link rel="stylesheet" href="style.css">')
    // Nothing is counted of a page that lies on somebody's disk.
    .replace(/<script src="\/assets\/scripts\/(?!page)[^>]*><\/script>/g, '')
    .replace(/<noscript>.*?<\/noscript>/gs, '')
    .replaceAll(' crossOrigin="anonymous"', '')
    .replaceAll(' crossorigin="anonymous"', '');
  const placed = local(counted).replace(/(href|action|src)="\/(?!\/)/g, `$1="${config.siteUrl}/`);
  files['style.css'] = new TextEncoder().encode(local(style));
  files['index.html'] = new TextEncoder().encode(placed);
  return zipSync(files);
}
