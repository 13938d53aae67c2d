import { filesOn, followSections, keptSection, linkedOn, type OwnSection, PAGE_VERSION, type PageDocument, readPage, type Section } from '@ruta/core/page';
import { desc, eq, isNull, like, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { notFound } from '../base/problem';
import type { Services } from '../base/services';
import { findPictures } from '../files/store';
import { latestPublications, type Snapshot } from '../funnel/store';
import { publications, steps } from '../funnel/tables';
import { ownSections } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/** A stored section as the present version has it. */
function readSection({ section, pageVersion }: Pick<typeof ownSections.$inferSelect, 'section' | 'pageVersion'>): Section {
  const page = readPage({ version: pageVersion, title: 'Own section', description: '', indexed: false, sections: [section] });
  return page.sections[0] as Section;
}

const pageOf = (section: Section): PageDocument => ({ version: PAGE_VERSION, title: section.name, description: '', indexed: false, sections: [section] });

/** Drafts that show an own section linked. */
const draftsWith = (db: Db, id: string) =>
  db
    .select({ id: steps.id, draft: steps.draft, revision: steps.revision })
    .from(steps)
    .where(sql`${isNull(steps.removedAt)} and ${like(steps.draft, `%"linkedTo":"${id}"%`)}`)
    .all();

/** Every own section, the newest first. */
export function listOwnSections(db: Db): OwnSection[] {
  return db
    .select()
    .from(ownSections)
    .orderBy(desc(ownSections.updatedAt))
    .all()
    .map(({ id, name, ...kept }) => {
      const section = readSection(kept);
      return { id, name, section, pages: draftsWith(db, id).length, pictures: findPictures(db, filesOn(pageOf(section))) };
    });
}

/** Keeps a section to be used again. @returns all of them */
export function keepOwnSection({ db, clock }: Needs, { id, name, section }: { id: string; name: string; section: Section }): OwnSection[] {
  const row = {
    id,
    name,
    section: { ...keptSection(section), linkedTo: id, show: undefined },
    pageVersion: PAGE_VERSION,
    createdAt: clock.now(),
    updatedAt: clock.now(),
  };
  db.insert(ownSections).values(row).run();
  return listOwnSections(db);
}

/** Forgets an own section; pages that show it keep it as their own. @throws Refusal 404 if there is none */
export function removeOwnSection({ db, clock }: Needs, id: string): OwnSection[] {
  db.transaction((tx) => {
    if (tx.delete(ownSections).where(eq(ownSections.id, id)).run().changes === 0) throw notFound('This section');
    for (const step of draftsWith(tx, id)) {
      const page = readPage(step.draft);
      const sections = page.sections.map((section) => (section.linkedTo === id ? { ...section, linkedTo: undefined } : section));
      writeDraft(tx, step, { ...page, sections }, clock.now());
    }
  });
  return listOwnSections(db);
}

const writeDraft = (tx: Db, { id, revision }: { id: string; revision: number }, draft: PageDocument, updatedAt: number): void => {
  tx.update(steps)
    .set({ draft, revision: revision + 1, updatedAt })
    .where(eq(steps.id, id))
    .run();
};

/** What was changed of linked sections on one page reaches every other draft that shows them; call it in the transaction that saves the page. */
export function spreadSections(tx: Db, { clock }: Pick<Services, 'clock'>, stepId: string, page: PageDocument): void {
  for (const section of linkedOn(page)) {
    const id = section.linkedTo as string;
    const kept = tx.select().from(ownSections).where(eq(ownSections.id, id)).get();
    if (!kept) continue;
    const before = pageOf(readSection(kept));
    if (followSections(before, [section]) === before) continue;
    tx.update(ownSections)
      .set({ section: keptSection(section), pageVersion: PAGE_VERSION, updatedAt: clock.now() })
      .where(eq(ownSections.id, id))
      .run();
    for (const step of draftsWith(tx, id)) {
      if (step.id === stepId) continue;
      const draft = readPage(step.draft);
      const followed = followSections(draft, [section]);
      if (followed !== draft) writeDraft(tx, step, followed, clock.now());
    }
  }
}

/** What is published of linked sections goes live wherever else they are live; what else waits there goes on waiting. */
export function publishSections(tx: Db, { clock }: Pick<Services, 'clock'>, funnelId: string, snapshot: Snapshot, userId: string | null): void {
  const changed = Object.values(snapshot.pages).flatMap(linkedOn);
  if (changed.length === 0) return;
  for (const live of latestPublications(tx)) {
    if (live.funnelId === funnelId) continue;
    const pages = Object.fromEntries(Object.entries(live.snapshot.pages).map(([id, page]) => [id, followSections(page, changed)]));
    if (Object.entries(pages).every(([id, page]) => page === live.snapshot.pages[id])) continue;
    tx.insert(publications)
      .values({
        id: newId(clock, 'publication'),
        funnelId: live.funnelId,
        version: live.version + 1,
        at: clock.now(),
        userId,
        snapshot: { ...live.snapshot, pages },
      })
      .run();
  }
}
