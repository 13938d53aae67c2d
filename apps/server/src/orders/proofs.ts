import { and, eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { taxNumberProofs } from './tables';

/** What the register said of the tax number of an order's buyer; undefined where tax was not left to them. */
export const proofOf = (db: Db, orderId: string) => db.select().from(taxNumberProofs).where(eq(taxNumberProofs.orderId, orderId)).get();

/** Notes that somebody has dealt with a number that the register does not know. @returns whether there was one */
export const settleProof = (db: Db, orderId: string): boolean =>
  db
    .update(taxNumberProofs)
    .set({ state: 'settled' })
    .where(and(eq(taxNumberProofs.orderId, orderId), eq(taxNumberProofs.state, 'unknown')))
    .run().changes > 0;
