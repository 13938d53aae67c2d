import { isDeepStrictEqual } from 'node:util';
import { type Publication, type PublicationList, publicationChanges } from '@ruta/core/checks';
import { namesFor, offeredProducts } from '@ruta/core/offers';
import { and, desc, eq, inArray, lt } from 'drizzle-orm';
import { notFound } from '../base/problem';
import type { Services } from '../base/services';
import { findProducts } from '../catalog/store';
import { saveMap } from '../funnel/changeMap';
import { checkSlug } from '../funnel/service';
import { sharedPage, withSources } from '../funnel/sharedOffers';
import { findFunnel, loadFunnel, readPublication, saveDraft } from '../funnel/store';
import { funnels, publications } from '../funnel/tables';
import { keepVersion } from '../page/versions';
import { loadShop } from '../shop/store';
import { users } from '../team/tables';

const AT_ONCE = 12;
type Needs = Pick<Services, 'db'>;

/** Everything a funnel was published as, the newest first, so many at once: who, when, and what it changed. @throws Refusal 404 */
export function listPublications({ db }: Needs, { funnelId, before }: { funnelId: string; before?: number | undefined }): PublicationList {
  if (!findFunnel(db, funnelId)) throw notFound('This funnel');
  // One more than is told, to compare the last one with.
  const rows = db
    .select()
    .from(publications)
    .where(and(eq(publications.funnelId, funnelId), before === undefined ? undefined : lt(publications.version, before)))
    .orderBy(desc(publications.version))
    .limit(AT_ONCE + 1)
    .all()
    .map(readPublication);
  const told = rows.slice(0, AT_ONCE);
  const people = new Map(
    db
      .select({ id: users.id, name: users.name })
      .from(users)
      .where(
        inArray(
          users.id,
          told.flatMap(({ userId }) => userId ?? []),
        ),
      )
      .all()
      .map(({ id, name }) => [id, name]),
  );
  const products = findProducts(db, [...new Set(rows.flatMap(({ snapshot }) => snapshot.graph.steps.flatMap(offeredProducts)))]);
  const byId = Object.fromEntries(products.map((product) => [product.id, product]));
  const { currency } = loadShop(db).settings;
  const newest = db
    .select({ version: publications.version })
    .from(publications)
    .where(eq(publications.funnelId, funnelId))
    .orderBy(desc(publications.version))
    .get();
  return {
    rows: told.map(({ version, at, userId, snapshot }, index): Publication => {
      const earlier = rows[index + 1]?.snapshot;
      const changes = earlier ? publicationChanges(earlier, snapshot, namesFor({ products: byId, graph: snapshot.graph }, currency)) : [];
      return { version, at, by: (userId && people.get(userId)) || null, isLive: version === newest?.version, changes };
    }),
    before: rows.length > AT_ONCE ? (told.at(-1)?.version ?? null) : null,
  };
}

/**
 * Makes a funnel's draft what it was published as once: steps, routes, pages, name, look. Visitors see nothing of it until it
 * is published. Every page that is replaced is kept as a version of its own.
 * @throws Refusal 404 if there is no such publication, 409 if its address is another funnel's by now
 */
export function draftFromPublication(services: Pick<Services, 'db' | 'clock'>, funnelId: string, version: number, userId: string | null): void {
  const { db, clock } = services;
  db.transaction((tx) => {
    const within = { ...services, db: tx };
    const state = loadFunnel(tx, funnelId);
    const row = tx
      .select()
      .from(publications)
      .where(and(eq(publications.funnelId, funnelId), eq(publications.version, version)))
      .get();
    if (!row) throw notFound('This publication');
    const { snapshot } = readPublication(row);
    if (snapshot.slug !== state.funnel.slug) checkSlug(tx, snapshot.slug, funnelId);
    const replaced = state.steps.filter(({ id, draft }) => !isDeepStrictEqual(draft, snapshot.pages[id]));
    for (const { id, draft } of replaced) keepVersion(within, id, { name: `Before going back to version ${version}`, page: draft }, userId);
    const graph = withSources(tx, funnelId, state.graph, snapshot.graph);
    const pageOf = (step: (typeof graph.steps)[number]) => {
      const page = sharedPage(tx, graph, step) ?? snapshot.pages[step.id];
      if (!page) throw notFound(`The page of “${step.name}”`);
      return page;
    };
    saveMap(tx, services, state, graph, pageOf);
    const now = clock.now();
    for (const step of loadFunnel(tx, funnelId).steps) {
      const page = pageOf(step as (typeof graph.steps)[number]);
      if (!isDeepStrictEqual(step.draft, page)) saveDraft(tx, step.id, step.revision, page, now);
    }
    const { name, slug, giftId, brand = null, code = null } = snapshot;
    tx.update(funnels).set({ name, slug, giftId, brand, code, updatedAt: now }).where(eq(funnels.id, funnelId)).run();
  });
}
