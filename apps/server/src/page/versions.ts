import { type PageDocument, type PageVersion, readPage } from '@ruta/core/page';
import { and, desc, eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { notFound } from '../base/problem';
import type { Services } from '../base/services';
import { loadStep, publicationsOf } from '../funnel/store';
import { pageVersions } from './tables';

/** How a version that was live is asked for: `live-3`. */
const LIVE = /^live-(\d+)$/;

/** Versions of a page to go back to, the newest first: those that were given a name, and what was live. */
export function versionsOf(db: Db, stepId: string): PageVersion[] {
  const { funnelId } = loadStep(db, stepId);
  const named = db
    .select({ id: pageVersions.id, name: pageVersions.name, at: pageVersions.at })
    .from(pageVersions)
    .where(eq(pageVersions.stepId, stepId))
    .orderBy(desc(pageVersions.at))
    .all();
  const live = publicationsOf(db, funnelId)
    .filter(({ snapshot }) => snapshot.pages[stepId] !== undefined)
    .map(({ version, at }) => ({ id: `live-${version}`, name: `Live, version ${version}`, at, isLive: true }));
  return [...named.map((version) => ({ ...version, isLive: false })), ...live].sort((a, b) => b.at - a.at);
}

/** Keeps a page as it is under a name. @returns all versions */
export function keepVersion(
  { db, clock }: Pick<Services, 'db' | 'clock'>,
  stepId: string,
  { name, page }: { name: string; page: PageDocument },
  userId: string | null,
): PageVersion[] {
  loadStep(db, stepId);
  db.insert(pageVersions)
    .values({ id: newId(clock, 'pageVersion'), stepId, name, page, userId, at: clock.now() })
    .run();
  return versionsOf(db, stepId);
}

/** A version with its page. @throws Refusal 404 if there is none */
export function loadVersion(db: Db, stepId: string, id: string): PageVersion & { page: PageDocument } {
  const number = LIVE.exec(id)?.[1];
  if (number !== undefined) {
    const { funnelId } = loadStep(db, stepId);
    const published = publicationsOf(db, funnelId).find(({ version }) => version === Number(number));
    const page = published?.snapshot.pages[stepId];
    if (!published || !page) throw notFound('This version');
    return { id, name: `Live, version ${number}`, at: published.at, isLive: true, page };
  }
  const row = db
    .select()
    .from(pageVersions)
    .where(and(eq(pageVersions.id, id), eq(pageVersions.stepId, stepId)))
    .get();
  if (!row) throw notFound('This version');
  return { id, name: row.name, at: row.at, isLive: false, page: readPage(row.page) };
}

/** Forgets a version that was given a name. @returns those that are left */
export function forgetVersion(db: Db, stepId: string, id: string): PageVersion[] {
  db.delete(pageVersions)
    .where(and(eq(pageVersions.id, id), eq(pageVersions.stepId, stepId)))
    .run();
  return versionsOf(db, stepId);
}
