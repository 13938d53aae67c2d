import { type Code, normalizeCode } from '@ruta/core';
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Db } from '../db/open';
import { fieldRefusal, notFound } from '../http/problem';
import { newId } from '../ids';
import { orders } from '../sales/tables';
import type { Services } from '../services';
import { codes } from './tables';

export interface StoredCode {
  id: string;
  terms: Code;
}

/** A code with what it brought. */
export interface CodeRow extends StoredCode {
  createdAt: number;
  /** Paid orders in live mode that used it. */
  uses: number;
  /** What those orders paid on their day, minor units. */
  paid: number;
}

export function listCodes(db: Db): CodeRow[] {
  return db
    .select({
      id: codes.id,
      terms: codes.terms,
      createdAt: codes.createdAt,
      uses: sql<number>`count(${orders.id})`,
      paid: sql<number>`coalesce(sum(${orders.total}), 0)`,
    })
    .from(codes)
    .leftJoin(orders, and(eq(orders.codeId, codes.id), eq(orders.state, 'paid'), eq(orders.mode, 'live')))
    .where(isNull(codes.archivedAt))
    .groupBy(codes.id)
    .orderBy(desc(codes.createdAt))
    .all();
}

/** The code that a buyer typed; undefined if there is none. */
export function findCode(db: Db, typed: string): StoredCode | undefined {
  return db
    .select({ id: codes.id, terms: codes.terms })
    .from(codes)
    .where(and(eq(codes.code, normalizeCode(typed)), isNull(codes.archivedAt)))
    .get();
}

type Needs = Pick<Services, 'db' | 'clock'>;

/** Adds a code, or changes the one with this id. @throws Refusal 409 if another code reads the same, 404 if there is no such id */
export function saveCode(services: Needs, id: string | null, terms: Code): CodeRow {
  const { db, clock } = services;
  const now = clock.now();
  const code = normalizeCode(terms.code);
  const same = db.select({ id: codes.id, archivedAt: codes.archivedAt }).from(codes).where(eq(codes.code, code)).get();
  if (same && same.id !== id) {
    throw fieldRefusal('code', same.archivedAt === null ? 'There is a code like this already.' : 'A code like this was archived. Choose another word.', 409);
  }
  const kept = { code, terms: { ...terms, code }, updatedAt: now };
  if (id === null) {
    const made = newId(clock, 'code');
    db.insert(codes)
      .values({ ...kept, id: made, createdAt: now })
      .run();
    return loadCode(db, made);
  }
  if (db.update(codes).set(kept).where(eq(codes.id, id)).run().changes === 0) throw notFound('This code');
  return loadCode(db, id);
}

/** Takes a code out of lists and out of use. Orders that used it stay as they are. */
export function archiveCode(services: Needs, id: string): void {
  if (services.db.update(codes).set({ archivedAt: services.clock.now() }).where(eq(codes.id, id)).run().changes === 0) throw notFound('This code');
}

function loadCode(db: Db, id: string): CodeRow {
  const row = listCodes(db).find((code) => code.id === id);
  if (!row) throw notFound('This code');
  return row;
}
