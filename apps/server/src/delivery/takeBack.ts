import { inArray } from 'drizzle-orm';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { grants } from './tables';

/** Ends the rights to files that came with lines. Call it in the transaction that gives their money back. */
export function takeBack(tx: Db, { clock }: Pick<Services, 'clock'>, lineIds: readonly string[]): void {
  if (lineIds.length === 0) return;
  tx.update(grants)
    .set({ until: clock.now() })
    .where(inArray(grants.lineId, [...lineIds]))
    .run();
}
