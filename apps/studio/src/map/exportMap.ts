import type { Graph } from '@ruta/core/funnel';
import type { LineLook } from './lenses';
import { headOf, type Layout, pathOf, STOP_HEIGHT, STOP_WIDTH } from './placed';
import { LINE_COLOURS } from './RouteLine';

const MARGIN = 40;
const TITLE = 48;

const escapeXml = (text: string) => text.replace(/[<>&"']/g, (letter) => `&#${letter.charCodeAt(0)};`);
const cut = (text: string, letters: number) => (text.length > letters ? `${text.slice(0, letters - 1)}…` : text);

/** The map as a drawing that stands by itself: bands, stops with their names and figures, lines with their words. */
export function mapSvg(graph: Graph, layout: Layout, looks: Record<string, LineLook>, captions: Record<string, string[]>, title: string): string {
  const places = Object.values(layout.positions);
  const corners = Object.values(layout.lines).flatMap(({ points }) => points);
  const left = Math.min(...places.map(({ x }) => x), ...corners.map(({ x }) => x)) - MARGIN;
  const top = Math.min(...places.map(({ y }) => y), ...corners.map(({ y }) => y)) - MARGIN - TITLE;
  const right = Math.max(...places.map(({ x }) => x + STOP_WIDTH), ...corners.map(({ x }) => x)) + MARGIN;
  const bottom = Math.max(...places.map(({ y }) => y + STOP_HEIGHT), ...corners.map(({ y }) => y)) + MARGIN;
  const bands = layout.bands.map(
    (band, index) =>
      `<rect x="${band.left}" y="${top + TITLE}" width="${band.right - band.left}" height="${bottom - top - TITLE}" fill="${index % 2 ? '#EBEFEB' : '#F3F5F2'}"/><text x="${band.left + 14}" y="${top + TITLE + 22}" font-size="13" font-weight="600" fill="#52666A">${band.name}</text>`,
  );
  const lines = graph.routes.flatMap((route) => {
    const [line, look] = [layout.lines[route.id], looks[route.id]];
    if (!line || !look) return [];
    const colour = LINE_COLOURS[look.kind];
    const words = [look.figure, look.words].filter(Boolean).join(' ');
    const width = words.length * 7 + 16;
    const plate = words
      ? `<rect x="${line.plate.x - width / 2}" y="${line.plate.y - 12}" width="${width}" height="24" rx="6" fill="#FFFFFF" stroke="${colour}" stroke-width="1.5"/><text x="${line.plate.x}" y="${line.plate.y + 4.5}" font-size="12.5" text-anchor="middle" fill="${colour}">${escapeXml(words)}</text>`
      : '';
    return [
      `<path d="${pathOf(line.points)}" fill="none" stroke="${colour}" stroke-width="${look.width}"${look.kind === 'no' ? ' stroke-dasharray="7 6"' : ''}/><path d="${headOf(line.points)}" fill="${colour}"/>${plate}`,
    ];
  });
  const stops = graph.steps.flatMap((step) => {
    const place = layout.positions[step.id];
    if (!place) return [];
    const isMoney = step.kind === 'checkout' || step.kind === 'offer';
    const said = (captions[step.id] ?? []).slice(0, 4);
    return [
      `<g transform="translate(${place.x} ${place.y})"><rect width="${STOP_WIDTH}" height="${STOP_HEIGHT}" rx="6" fill="#FFFFFF" stroke="#10262B" stroke-width="1.5"/>` +
        `${isMoney ? '<rect x="14" y="16" width="22" height="22" rx="5" fill="#FFFFFF" stroke="#10262B" stroke-width="3"/>' : '<circle cx="25" cy="27" r="11" fill="#FFFFFF" stroke="#10262B" stroke-width="3"/>'}` +
        `${step.kind === 'thank-you' ? '<circle cx="25" cy="27" r="4" fill="#10262B"/>' : ''}` +
        `<text x="14" y="66" font-size="14" font-weight="700" fill="#10262B">${escapeXml(cut(step.name, 22))}</text>` +
        `${said.map((line, index) => `<text x="14" y="${90 + index * 20}" font-size="12.5" fill="#52666A">${escapeXml(cut(line, 26))}</text>`).join('')}</g>`,
    ];
  });
  const [width, height] = [right - left, bottom - top];
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${left} ${top} ${width} ${height}" font-family="Overpass, Helvetica, Arial, sans-serif">` +
    `<rect x="${left}" y="${top}" width="${width}" height="${height}" fill="#F3F5F2"/>${bands.join('')}` +
    `<text x="${left + 20}" y="${top + 32}" font-size="20" font-weight="700" fill="#10262B">${escapeXml(title)}</text>${lines.join('')}${stops.join('')}</svg>`
  );
}

function save(name: string, blob: Blob): void {
  const url = URL.createObjectURL(blob);
  Object.assign(document.createElement('a'), { href: url, download: name }).click();
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

export const saveSvg = (name: string, svg: string): void => save(`${name}.svg`, new Blob([svg], { type: 'image/svg+xml' }));

const SHARPNESS = 2;

/** The same as a picture of twice as many points. @throws Error if the browser cannot draw it */
export async function savePng(name: string, svg: string): Promise<void> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = image.naturalWidth * SHARPNESS;
  canvas.height = image.naturalHeight * SHARPNESS;
  canvas.getContext('2d')?.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
  if (!blob) throw new Error('The browser could not draw the picture.');
  save(`${name}.png`, blob);
}
