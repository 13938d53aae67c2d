import { randomInt } from 'node:crypto';
import type { Product } from '@ruta/core/catalog';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { builtOnce, type Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal } from '../base/problem';
import type { Services } from '../base/services';
import { stage } from '../base/staged';
import { AT_ONCE, type TaskHand } from '../base/tasks';
import { licenceKeys } from './tables';

/** Letters and digits that are not taken for each other when read aloud. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const MAX_KEY_LENGTH = 200;
const MAX_PASTED = 50_000;
/** How many are written in one go. */
const SLICE = 5000;

/** A key by a pattern: `*` becomes a letter or digit, `#` a digit. */
export function makeKey(pattern: string): string {
  return pattern.replace(/[*#]/g, (mark) => (mark === '#' ? String(randomInt(10)) : (LETTERS[randomInt(LETTERS.length)] as string)));
}

export interface KeyCounts {
  waiting: number;
  given: number;
}

const keyCounts = builtOnce((db) =>
  db
    .select({ waiting: sql<number>`count(case when ${licenceKeys.orderId} is null then 1 end)`, given: sql<number>`count(${licenceKeys.orderId})` })
    .from(licenceKeys)
    .where(eq(licenceKeys.productId, sql.placeholder('productId')))
    .prepare(),
);

export function countKeys(db: Db, productId: string): KeyCounts {
  return keyCounts(db).get({ productId }) ?? { waiting: 0, given: 0 };
}

/**
 * Adds pasted keys, one a line. Lines that repeat, or that the product has already, are left out and counted.
 * @throws Refusal 400 if nothing usable was pasted
 */
export function addKeys(
  { db, clock }: Pick<Services, 'db' | 'clock'>,
  { productId, keys: text }: { productId: string; keys: string },
  hand: TaskHand = AT_ONCE,
): { added: number; repeated: number } {
  const lines = text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter((line) => line !== '');
  if (lines.length === 0) throw fieldRefusal('keys', 'Paste at least one key, each on a line of its own.');
  if (lines.length > MAX_PASTED) throw fieldRefusal('keys', `Paste at most ${MAX_PASTED.toLocaleString('en')} keys at once.`);
  const long = lines.findIndex((line) => line.length > MAX_KEY_LENGTH);
  if (long >= 0) throw fieldRefusal('keys', `Line ${long + 1} is over ${MAX_KEY_LENGTH} characters. Nothing was added.`);
  const now = clock.now();
  const rows = lines.map((value) => ({ id: newId(clock, 'key'), productId, value, createdAt: now }));
  const staged = stage(db, licenceKeys, rows, (done, of) => hand.tell('preparing', done, of));
  hand.beginWriting();
  let added = 0;
  // In slices: who pastes them once more after a sudden end has the rest added, and nobody waits for all of them.
  for (let from = 0; from < rows.length; from += SLICE) {
    if (from > 0) hand.giveWay();
    hand.tell('writing', from, rows.length);
    added += db.transaction((tx) => staged.copy(tx, sql`ON CONFLICT DO NOTHING`, { from, to: from + SLICE }), { behavior: 'immediate' });
  }
  return { added, repeated: lines.length - added };
}

/**
 * Gives keys of a product to an order's line, in the transaction that pays it. A waiting key is taken in one
 * statement and a generated one must be new, so none is ever given twice.
 * @returns how many could be given; fewer than asked if a pasted list has run out
 */
export function giveKeys(
  tx: Db,
  services: Pick<Services, 'clock'>,
  product: Pick<Product, 'id' | 'delivery'>,
  line: { orderId: string; lineId: string },
  quantity: number,
): number {
  const { keys } = product.delivery;
  if (!keys) return 0;
  let given = 0;
  while (given < quantity) {
    if (keys.kind === 'list') {
      const next = tx
        .select({ id: licenceKeys.id })
        .from(licenceKeys)
        .where(and(eq(licenceKeys.productId, product.id), isNull(licenceKeys.orderId)))
        .orderBy(asc(licenceKeys.id))
        .limit(1)
        .get();
      if (!next) break;
      tx.update(licenceKeys).set(line).where(eq(licenceKeys.id, next.id)).run();
      given++;
    } else {
      const value = makeKey(keys.pattern);
      const row = { id: newId(services.clock, 'key'), productId: product.id, value, createdAt: services.clock.now(), ...line };
      given += tx.insert(licenceKeys).values(row).onConflictDoNothing().run().changes;
    }
  }
  return given;
}

/** Keys that came with an order, with the product each is for. */
export function keysOf(db: Db, orderId: string): Array<{ value: string; productId: string; lineId: string | null }> {
  return db
    .select({ value: licenceKeys.value, productId: licenceKeys.productId, lineId: licenceKeys.lineId })
    .from(licenceKeys)
    .where(eq(licenceKeys.orderId, orderId))
    .orderBy(asc(licenceKeys.id))
    .all();
}
