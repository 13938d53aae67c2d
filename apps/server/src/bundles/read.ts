import { rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { type Bundle, type ImportedFunnel, type ImportedPage, type ReadBundle, withFiles } from '@ruta/core/bundles';
import type { Graph } from '@ruta/core/funnel';
import type { IdKind } from '@ruta/core/ids';
import { copyPage, filesOn, type PageDocument, readPage } from '@ruta/core/page';
import { copyFunnel } from '@ruta/core/templates';
import { newId } from '../base/ids';
import { fieldRefusal, Refusal } from '../base/problem';
import type { Services } from '../base/services';
import type { StepsHand } from '../base/tasks';
import { findProducts } from '../catalog/store';
import { addPicture, findPictures } from '../files/store';
import { writeFunnel } from '../templates/createFunnel';

/** Keeps a bundle's pictures as if they had been uploaded. @returns the new id of each that could be read */
async function keepPictures(services: Services, pictures: Bundle['pictures'], hand: StepsHand): Promise<Map<string, string>> {
  const kept = new Map<string, string>();
  hand.beginWriting();
  for (const [index, { id, name, data }] of pictures.entries()) {
    hand.tell('writing', index, pictures.length);
    const file = path.join(tmpdir(), `ruta-${newId(services.clock, 'file')}`);
    const content = Buffer.from(data, 'base64');
    await writeFile(file, content);
    const picture = await addPicture(services, { name, path: file, bytes: content.length })
      .catch((error) => {
        // A picture that is none is left out; a disk that is full is told.
        if (error instanceof Refusal) return null;
        throw error;
      })
      .finally(() => rm(file, { force: true }));
    // One that cannot be read is missing, and told of.
    if (picture) kept.set(id, picture.id);
  }
  return kept;
}

/** What of a file did not come in, in words. */
const missingOf = (pages: readonly PageDocument[], kept: ReadonlyMap<string, string>): string[] => [
  ...[...new Set(pages.flatMap(filesOn))].filter((id) => !kept.has(id)).map((id) => `A picture or video is not in the file (${id}).`),
  ...(pages.some(({ code }) => code) ? ['Code of its own was left out, since it would run on your pages. Put it in yourself if you trust it.'] : []),
];

/** A page without what belongs to the shop it came from: its links to own sections, and code that would run here. */
const unbound = (page: PageDocument): PageDocument => ({
  ...page,
  code: undefined,
  sections: page.sections.map((section) => ({ ...section, linkedTo: undefined })),
});

async function bundleOf<Kind extends Bundle['kind']>(hand: StepsHand, sent: unknown, kind: Kind): Promise<Extract<Bundle, { kind: Kind }>> {
  const read = await hand.run<ReadBundle>('readBundle', sent instanceof Uint8Array ? sent : new Uint8Array());
  if (!read.ok) throw fieldRefusal('file', read.message);
  if (read.bundle.kind !== kind) {
    throw fieldRefusal(
      'file',
      kind === 'page'
        ? 'This file holds a whole funnel. It is taken in where funnels are started.'
        : 'This file holds one page. It is taken in where that page is edited.',
    );
  }
  return read.bundle as Extract<Bundle, { kind: Kind }>;
}

/** A page from a bundle, with ids of its own, ready to be put in place of another. @param sent the bytes of the file @throws Refusal 400 at `file` if it is none */
export const readPageBundle = (services: Services, sent: unknown, task?: string): Promise<ImportedPage> =>
  services.tasks.steps((hand) => takePage(services, sent, hand), task);

async function takePage(services: Services, sent: unknown, hand: StepsHand): Promise<ImportedPage> {
  const { page, pictures } = await bundleOf(hand, sent, 'page');
  const kept = await keepPictures(services, pictures, hand);
  const fresh = (kind: IdKind) => newId(services.clock, kind);
  const taken = readPage(withFiles(copyPage(unbound(page), fresh), (id) => kept.get(id)));
  return { page: taken, pictures: findPictures(services.db, filesOn(taken)), missing: missingOf([page], kept) };
}

/** A funnel from a bundle, as a draft. What it sold stays where this shop has the product. @throws Refusal 400 at `file` if it is none */
export const readFunnelBundle = (services: Services, sent: unknown, task?: string): Promise<ImportedFunnel> =>
  services.tasks.steps((hand) => takeFunnel(services, sent, hand), task);

async function takeFunnel(services: Services, sent: unknown, hand: StepsHand): Promise<ImportedFunnel> {
  const { name, graph, pages, brand, pictures } = await bundleOf(hand, sent, 'funnel');
  const kept = await keepPictures(services, pictures, hand);
  const wanted = [...new Set(graph.steps.flatMap(({ sells }) => sells.map(({ productId }) => productId)))];
  const known = new Set(findProducts(services.db, wanted).map(({ id }) => id));
  const own: Graph = {
    ...graph,
    steps: graph.steps.map(({ sharedFrom: _shared, ...step }) => ({ ...step, sells: step.sells.filter(({ productId }) => known.has(productId)) })),
  };
  const copy = copyFunnel(own, pages, (kind: IdKind) => newId(services.clock, kind));
  const read = Object.fromEntries(Object.entries(copy.pages).map(([stepId, page]) => [stepId, readPage(withFiles(unbound(page), (id) => kept.get(id)))]));
  const taken = { graph: withFiles(copy.graph, (id) => kept.get(id)), pages: read };
  const funnelId = writeFunnel(services, taken, { name: name.slice(0, 80), giftId: null, brand: brand && withFiles(brand, (id) => kept.get(id)) });
  const sold = wanted.filter((id) => !known.has(id)).map((id) => `This shop has no product ${id}; what sold it sells nothing yet.`);
  return { funnelId, missing: [...missingOf(Object.values(pages), kept), ...sold] };
}
