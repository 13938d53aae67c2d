import { isDeepStrictEqual } from 'node:util';
import { type Changes, type FunnelLook, type FunnelSettings, RESERVED_SLUGS, type StepSettings } from '@ruta/core/funnel';
import { mainOffer, sellsAbout } from '@ruta/core/offers';
import { and, eq, isNull, ne, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal } from '../base/problem';
import type { Services } from '../base/services';
import { bringUpSharing } from './bringUpSharing';
import { sharedRefusal } from './sharedOffers';
import { type FunnelState, loadFunnel, loadStep, publishedSlugs, type Snapshot, snapshotOf } from './store';
import { funnels, publications, steps } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** Renames a funnel or moves it to another address. */
export function changeFunnel({ db, clock }: Needs, id: string, settings: FunnelSettings): void {
  loadFunnel(db, id);
  checkSlug(db, settings.slug, id);
  db.update(funnels)
    .set({ ...settings, updatedAt: clock.now() })
    .where(eq(funnels.id, id))
    .run();
}

/**
 * Puts a funnel away: its pages are offline from this moment, its orders and figures stay; or brings it back as it was. The caller
 * announces it.
 */
export function archiveFunnel({ db, clock }: Needs, id: string, archived: boolean): void {
  loadFunnel(db, id);
  const now = clock.now();
  db.update(funnels)
    .set({ archivedAt: archived ? now : null, updatedAt: now })
    .where(eq(funnels.id, id))
    .run();
}

/** Gives a funnel a look and code of its own, or takes them away. */
export function changeLook({ db, clock }: Needs, id: string, look: FunnelLook): void {
  loadFunnel(db, id);
  db.update(funnels)
    .set({ ...look, updatedAt: clock.now() })
    .where(eq(funnels.id, id))
    .run();
}

/**
 * Changes a stop's name, address, or what it is about; the page follows the product by itself. The caller has looked
 * whether there is such a product.
 */
export function changeStep({ db, clock }: Needs, id: string, { productId, ...settings }: StepSettings): void {
  const step = loadStep(db, id);
  if (step.sharedFrom && (settings.name !== step.name || productId !== (mainOffer(step)?.productId ?? null))) throw sharedRefusal(db, step.sharedFrom);
  const taken = db
    .select({ name: steps.name })
    .from(steps)
    .where(and(eq(steps.funnelId, step.funnelId), eq(steps.slug, settings.slug), ne(steps.id, id), isNull(steps.removedAt)))
    .get();
  if (taken) throw fieldRefusal('slug', `“${taken.name}” has this address already.`, 409);
  const sells = sellsAbout(step, productId, () => newId(clock, 'offer'));
  db.transaction((tx) => {
    tx.update(steps)
      .set({ ...settings, sells, updatedAt: clock.now() })
      .where(eq(steps.id, id))
      .run();
    // A map that is open elsewhere must not write the old ones back.
    tx.update(funnels)
      .set({ revision: sql`${funnels.revision} + 1` })
      .where(eq(funnels.id, step.funnelId))
      .run();
  });
}

/** Steps whose draft differs from what is published, and whether name, address or routes differ. */
export function unpublishedChanges(state: FunnelState): Changes {
  const current = snapshotOf(state);
  const live = state.published?.snapshot;
  if (!live) return { stepIds: state.steps.map((step) => step.id), settings: true };
  const liveSteps = new Map(live.graph.steps.map((step) => [step.id, step]));
  const stepIds = current.graph.steps
    .filter((step) => !isDeepStrictEqual(step, liveSteps.get(step.id)) || !isDeepStrictEqual(current.pages[step.id], live.pages[step.id]))
    .map((step) => step.id);
  const rest = ({ graph, name, slug, giftId, brand, code }: typeof live) => ({ name, slug, giftId, brand, code, entryId: graph.entryId, routes: graph.routes });
  return { stepIds, settings: !isDeepStrictEqual(rest(current), rest(live)) };
}

/**
 * Puts a funnel live as it stands, and online where it was taken offline. Whoever calls it has looked at its problems.
 * @param also what else goes live with it, in the same transaction
 * @returns the version
 */
export function publishFunnel(
  services: Needs & Pick<Services, 'changes'>,
  state: FunnelState,
  userId: string | null,
  also: (tx: Db, snapshot: Snapshot) => void = () => undefined,
): number {
  const { db, clock, changes } = services;
  const version = (state.published?.version ?? 0) + 1;
  const snapshot = snapshotOf(state);
  db.transaction((tx) => {
    tx.insert(publications)
      .values({ id: newId(clock, 'publication'), funnelId: state.funnel.id, version, at: clock.now(), userId, snapshot })
      .run();
    tx.update(funnels).set({ offline: null }).where(eq(funnels.id, state.funnel.id)).run();
    bringUpSharing(tx, services, state, userId);
    also(tx, snapshot);
  });
  changes.announce();
  return version;
}

/** @throws Refusal 409 if an address is the site's own or another funnel's */
export function checkSlug(db: Db, slug: string, funnelId: string): void {
  if (RESERVED_SLUGS.includes(slug)) throw fieldRefusal('slug', 'The site needs this address itself. Choose another.', 409);
  const taken = db
    .select({ name: funnels.name })
    .from(funnels)
    .where(and(eq(funnels.slug, slug), ne(funnels.id, funnelId)))
    .get();
  // An address that another funnel has moved away from is still its own until it is published at the new one.
  const holder = taken ?? publishedSlugs(db).find((published) => published.slug === slug && published.funnelId !== funnelId);
  if (holder) throw fieldRefusal('slug', `The funnel “${holder.name}” has this address already.`, 409);
}

/** The wished address, or the first free one like it. */
export function freeSlug(db: Db, wish: string): string {
  const drafts = db.select({ slug: funnels.slug }).from(funnels).all();
  const taken = new Set([...RESERVED_SLUGS, ...[...drafts, ...publishedSlugs(db)].map(({ slug }) => slug)]);
  if (!taken.has(wish)) return wish;
  for (let n = 2; ; n++) if (!taken.has(`${wish.slice(0, 55)}-${n}`)) return `${wish.slice(0, 55)}-${n}`;
}
