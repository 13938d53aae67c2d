import { z } from 'zod';
import { type Graph, GraphSchema } from '../funnel';
import { isTooDeep } from '../json';
import { PAGE_VERSION, PageDocumentSchema } from '../page';
import { BrandSchema } from '../shop';

/** The version of bundles that is written now. */
export const BUNDLE_VERSION = 1;

/** A picture inside a bundle, as large as it is kept. */
export const BundledPictureSchema = z.object({
  id: z.string().regex(/^fil_[0-9a-z]{6,32}$/),
  name: z.string().max(200),
  data: z.base64().describe('The picture as WebP'),
});

const common = {
  format: z.literal('ruta-bundle'),
  version: z.literal(BUNDLE_VERSION),
  pageVersion: z.literal(PAGE_VERSION),
  name: z.string().min(1).max(120),
  pictures: z.array(BundledPictureSchema).max(400),
};

/** Ids that stand twice, and routes that lead from or to no step: a map that was written by hand, or cut. */
function refuseBroken({ entryId, steps, routes }: Graph, context: z.RefinementCtx): void {
  const refuse = (path: PropertyKey[], message: string) => context.addIssue({ code: 'custom', path, message });
  const known = new Set<string>();
  const slugs = new Set<string>();
  for (const [index, { id, slug }] of steps.entries()) {
    if (known.has(id)) refuse(['steps', index, 'id'], 'Two stops have the same id.');
    if (slugs.has(slug)) refuse(['steps', index, 'slug'], 'Two stops have the same address.');
    known.add(id);
    slugs.add(slug);
  }
  if (!known.has(entryId)) refuse(['entryId'], 'The funnel begins at a stop that is not in it.');
  const seen = new Set<string>();
  for (const [index, { id, from, to }] of routes.entries()) {
    if (seen.has(id)) refuse(['routes', index, 'id'], 'Two routes have the same id.');
    seen.add(id);
    for (const end of [from, to]) if (!known.has(end)) refuse(['routes', index], 'A route leads from or to a stop that is not in it.');
  }
}

/** A page, or a whole funnel, as one file with its pictures: open to every other program. */
export const BundleSchema = z.discriminatedUnion('kind', [
  z.object({ ...common, kind: z.literal('page'), page: PageDocumentSchema }),
  z.object({
    ...common,
    kind: z.literal('funnel'),
    graph: GraphSchema.superRefine(refuseBroken),
    pages: z.record(z.string(), PageDocumentSchema),
    brand: BrandSchema.nullable(),
  }),
]);
export type Bundle = z.infer<typeof BundleSchema>;

/** What came of reading a file: the bundle, or why it is none, in words. */
export type ReadBundle = { ok: true; bundle: Bundle } | { ok: false; message: string };

const NO_BUNDLE = 'This file is no page or funnel of Ruta.';

/** Reads a bundle from the bytes of a file. */
export function readBundleFile(bytes: Uint8Array): ReadBundle {
  let sent: unknown;
  try {
    sent = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
  } catch {
    return { ok: false, message: NO_BUNDLE };
  }
  return readBundle(sent);
}

/** Reads a bundle from what somebody sent. */
export function readBundle(sent: unknown): ReadBundle {
  if (isTooDeep(sent)) return { ok: false, message: NO_BUNDLE };
  const head = sent as { format?: unknown; version?: unknown; pageVersion?: unknown } | null;
  if (typeof head !== 'object' || head === null || head.format !== 'ruta-bundle') return { ok: false, message: NO_BUNDLE };
  const isNewer = (version: unknown, known: number) => typeof version === 'number' && version > known;
  if (isNewer(head.version, BUNDLE_VERSION) || isNewer(head.pageVersion, PAGE_VERSION)) {
    return { ok: false, message: 'This file was written by a newer version of Ruta. Bring this one up to date, then try again.' };
  }
  const read = BundleSchema.safeParse(sent);
  if (read.success) return { ok: true, bundle: read.data };
  const [issue] = read.error.issues;
  return { ok: false, message: `This file is damaged: ${issue?.message ?? 'it cannot be read'} (${issue?.path.join('.') ?? ''})` };
}

const isFileId = (value: unknown): value is string => typeof value === 'string' && value.startsWith('fil_');

/**
 * A page or map whose files are others; what names a file that there is none for shows nothing instead.
 * @param fileOf the new id of a file; undefined for one that is missing
 */
export function withFiles<T>(value: T, fileOf: (id: string) => string | undefined): T {
  if (Array.isArray(value)) return value.map((each) => withFiles(each, fileOf)) as T;
  if (typeof value !== 'object' || value === null) return value;
  const source = value as { kind?: unknown; fileId?: unknown };
  if (source.kind === 'file' && isFileId(source.fileId)) {
    const fileId = fileOf(source.fileId);
    return (fileId === undefined ? null : { ...source, fileId }) as T;
  }
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, isFileId(each) ? (fileOf(each) ?? null) : withFiles(each, fileOf)])) as T;
}
