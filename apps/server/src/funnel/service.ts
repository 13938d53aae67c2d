import { isDeepStrictEqual } from 'node:util';
import {
  allElements,
  drawFunnel,
  FUNNEL_TEMPLATES,
  type FunnelTemplate,
  type IdKind,
  idSchema,
  isElementOf,
  isFree,
  PageDocumentSchema,
  type Product,
  RESERVED_SLUGS,
  SlugSchema,
  StepSchema,
  slugify,
} from '@ruta/core';
import { and, eq, ne } from 'drizzle-orm';
import { z } from 'zod';
import { findProduct, loadProduct } from '../catalog/store';
import { quaysideAccount } from '../connections/service';
import type { Db } from '../db/open';
import { fieldRefusal, Refusal } from '../http/problem';
import { newId } from '../ids';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { isSent } from '../site/checkout';
import { type FunnelState, latestPublications, loadFunnel, loadStep, saveDraft, snapshotOf } from './store';
import { funnels, publications, routes, steps } from './tables';

const templates = Object.keys(FUNNEL_TEMPLATES) as [FunnelTemplate, ...FunnelTemplate[]];

export const NewFunnelSchema = z.object({
  name: z.string().trim().min(1, 'Give the funnel a name.').max(80, 'Keep the name under 80 characters.'),
  slug: SlugSchema.optional(),
  template: z.enum(templates),
  productId: idSchema('product'),
  giftId: idSchema('product').optional(),
});

/** Creates a funnel from a template, with every page bound to the chosen products. @returns the funnel's id */
export function createFunnel(services: Pick<Services, 'db' | 'clock'>, input: z.infer<typeof NewFunnelSchema>): string {
  const { db, clock } = services;
  const product = loadProduct(db, input.productId);
  if (isFree(product)) throw fieldRefusal('productId', 'Choose a product that costs something; the free one is the gift.');
  const needsGift = FUNNEL_TEMPLATES[input.template].needsGift;
  if (needsGift && !input.giftId) throw fieldRefusal('giftId', 'Choose the free gift that visitors receive.');
  const gift = needsGift && input.giftId ? loadProduct(db, input.giftId) : undefined;
  if (gift && !isFree(gift)) throw fieldRefusal('giftId', 'A gift must be free. Choose a product whose price is “Free”.');
  const id = newId(clock, 'funnel');
  const slug = input.slug ?? freeSlug(db, slugify(input.name) || 'funnel');
  checkSlug(db, slug, id);
  const drawn = drawFunnel(input.template, { product, gift }, (kind: IdKind) => newId(clock, kind));
  const now = clock.now();
  db.transaction((tx) => {
    tx.insert(funnels)
      .values({ id, name: input.name, slug, entryId: drawn.graph.entryId, giftId: gift?.id ?? null, createdAt: now, updatedAt: now })
      .run();
    for (const step of drawn.graph.steps) {
      const draft = drawn.pages[step.id];
      if (!draft) throw new Error(`The template drew no page for ${step.name}.`);
      tx.insert(steps)
        .values({ ...step, funnelId: id, draft, revision: 1, updatedAt: now })
        .run();
    }
    for (const route of drawn.graph.routes) {
      tx.insert(routes)
        .values({ id: route.id, funnelId: id, fromStepId: route.from, outcome: route.outcome, priority: route.priority, toStepId: route.to })
        .run();
    }
  });
  return id;
}

export const FunnelSettingsSchema = z.object({ name: NewFunnelSchema.shape.name, slug: SlugSchema });

/** Renames a funnel or moves it to another address. */
export function changeFunnel(services: Pick<Services, 'db' | 'clock'>, id: string, settings: z.infer<typeof FunnelSettingsSchema>): void {
  const { db, clock } = services;
  loadFunnel(db, id);
  checkSlug(db, settings.slug, id);
  db.update(funnels)
    .set({ ...settings, updatedAt: clock.now() })
    .where(eq(funnels.id, id))
    .run();
}

export const StepSettingsSchema = StepSchema.pick({ name: true, slug: true, productId: true });

/** Changes a step's name, address or product; the page follows the product by itself. */
export function changeStep(services: Pick<Services, 'db' | 'clock'>, id: string, settings: z.infer<typeof StepSettingsSchema>): void {
  const { db, clock } = services;
  const step = loadStep(db, id);
  if (settings.productId) loadProduct(db, settings.productId);
  const taken = db
    .select()
    .from(steps)
    .where(and(eq(steps.funnelId, step.funnelId), eq(steps.slug, settings.slug), ne(steps.id, id)))
    .get();
  if (taken) throw fieldRefusal('slug', `“${taken.name}” has this address already.`, 409);
  db.update(steps)
    .set({ ...settings, updatedAt: clock.now() })
    .where(eq(steps.id, id))
    .run();
}

export const DraftSchema = z.object({ revision: z.int(), page: PageDocumentSchema });

/** Saves a page's draft. @throws Refusal 409 if it was changed in another window since it was loaded */
export function savePage(services: Pick<Services, 'db' | 'clock'>, stepId: string, draft: z.infer<typeof DraftSchema>): number {
  loadStep(services.db, stepId);
  const revision = saveDraft(services.db, stepId, draft.revision, draft.page, services.clock.now());
  if (revision === undefined) throw new Refusal(409, 'This page was changed in another window. Reload to see that version.');
  return revision;
}

/** Steps whose draft differs from what is published, and whether name, address or routes differ. */
export function unpublishedChanges(state: FunnelState): { stepIds: string[]; settings: boolean } {
  const current = snapshotOf(state);
  const live = state.published?.snapshot;
  if (!live) return { stepIds: state.steps.map((step) => step.id), settings: true };
  const liveSteps = new Map(live.graph.steps.map((step) => [step.id, step]));
  const stepIds = current.graph.steps
    .filter((step) => !isDeepStrictEqual(step, liveSteps.get(step.id)) || !isDeepStrictEqual(current.pages[step.id], live.pages[step.id]))
    .map((step) => step.id);
  const rest = ({ graph, name, slug, giftId }: typeof live) => ({ name, slug, giftId, entryId: graph.entryId, routes: graph.routes });
  return { stepIds, settings: !isDeepStrictEqual(rest(current), rest(live)) };
}

export interface PublishProblem {
  stepId: string | null;
  message: string;
  /** A stop keeps the funnel from being published; a warning does not. */
  severity: 'stop' | 'warning';
}

/** What keeps a funnel from going live, and what is worth knowing before it does. */
export function publishProblems(services: Services, state: FunnelState): PublishProblem[] {
  const { db } = services;
  const problems: PublishProblem[] = [];
  const { mode } = loadShop(db).settings;
  for (const step of state.steps) {
    const product = step.productId ? findProduct(db, step.productId) : undefined;
    const elements = allElements(step.draft);
    const stop = (message: string) => problems.push({ stepId: step.id, message, severity: 'stop' });
    const warn = (message: string) => problems.push({ stepId: step.id, message, severity: 'warning' });
    if (step.kind === 'checkout' && !product) stop('Nothing is sold here yet. Choose a product for this stop.');
    if (step.kind === 'checkout' && product?.archivedAt) stop(`“${product.name}” is archived and cannot be sold.`);
    if (step.kind === 'checkout' && !elements.some((element) => element.type === 'order-form')) stop('This checkout has no order form, so nobody can pay.');
    if (step.kind === 'opt-in' && !elements.some((element) => isElementOf(element, 'form'))) stop('This page has no form, so nobody can leave an address.');
    if (step.kind === 'checkout' && product && !isFree(product) && !quaysideAccount(services, mode)) {
      warn('No card processor is connected, so nobody can pay. Connect one under Connections.');
    }
    if (step.kind === 'checkout' && product && isSent(services, product) && loadShop(db).shippingTable.length === 0) {
      stop(`“${product.name}” has to be sent, but the shop has no shipping rates yet. Enter them under Settings.`);
    }
    if (product && deliversNothing(product)) warn(`“${product.name}” is digital but has nothing to deliver: no file, link, course or key.`);
    if (step.kind === 'checkout' && product?.status === 'off') warn(`“${product.name}” is switched off, so nobody can buy it.`);
    if (step.kind === 'checkout' && product?.status === 'test' && mode === 'live') warn(`“${product.name}” is on test, so nobody can buy it in live mode.`);
    if (elements.filter((element) => element.type === 'headline' && element.level === 1).length !== 1)
      warn('A page reads best with exactly one main headline.');
    for (const element of elements) {
      if (element.type === 'picture' && element.source && !element.alt) warn('A picture has no text alternative for people who cannot see it.');
      if (
        element.type === 'button' &&
        element.action.kind === 'step' &&
        !state.graph.steps.some((target) => 'stepId' in element.action && target.id === element.action.stepId)
      ) {
        stop('A button leads to a stop that no longer exists.');
      }
    }
  }
  return problems;
}

function deliversNothing({ kind, bundle, files, delivery }: Product): boolean {
  return kind === 'digital' && bundle.length === 0 && files.length === 0 && !delivery.link && !delivery.course && !delivery.keys;
}

/** Puts the funnel live as it stands. @throws Refusal 409 naming each problem that stands in the way */
export function publish(services: Services, funnelId: string, userId: string | null): number {
  const { db, clock } = services;
  const state = loadFunnel(db, funnelId);
  const stops = publishProblems(services, state).filter((problem) => problem.severity === 'stop');
  if (stops.length > 0) {
    throw new Refusal(
      409,
      'This funnel cannot go live yet.',
      stops.map((problem) => ({ path: problem.stepId ?? '', message: problem.message })),
    );
  }
  const version = (state.published?.version ?? 0) + 1;
  db.insert(publications)
    .values({ id: newId(clock, 'publication'), funnelId, version, at: clock.now(), userId, snapshot: snapshotOf(state) })
    .run();
  services.publicPages.clear();
  return version;
}

function checkSlug(db: Db, slug: string, funnelId: string): void {
  if (RESERVED_SLUGS.includes(slug)) throw fieldRefusal('slug', 'The site needs this address itself. Choose another.', 409);
  const taken = db
    .select()
    .from(funnels)
    .where(and(eq(funnels.slug, slug), ne(funnels.id, funnelId)))
    .get();
  // An address that another funnel has moved away from is still its own until it is published at the new one.
  const holder = taken ?? latestPublications(db).find((publication) => publication.snapshot.slug === slug && publication.funnelId !== funnelId)?.snapshot;
  if (holder) throw fieldRefusal('slug', `The funnel “${holder.name}” has this address already.`, 409);
}

function freeSlug(db: Db, wish: string): string {
  const taken = new Set(
    db
      .select({ slug: funnels.slug })
      .from(funnels)
      .all()
      .map((row) => row.slug),
  );
  for (const slug of RESERVED_SLUGS) taken.add(slug);
  for (const publication of latestPublications(db)) taken.add(publication.snapshot.slug);
  if (!taken.has(wish)) return wish;
  for (let n = 2; ; n++) if (!taken.has(`${wish.slice(0, 55)}-${n}`)) return `${wish.slice(0, 55)}-${n}`;
}
