import type { Figures } from '@ruta/core/reports';
import { type SQL, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { type Scope, soldPayments } from './scope';

/** What partners of both tiers earn of the payments of a period, as it stands after refunds, by a key of their orders. */
export function commissionsBy(db: Db, key: SQL, scope: Scope): Map<string, Figures> {
  const rows = db.all<{ key: string; commissions: number }>(
    sql`SELECT ${key} AS key, sum(c.amount) AS commissions FROM ${soldPayments(scope, sql`JOIN commissions c ON c.payment_id = p.id`)} GROUP BY 1`,
  );
  return new Map(rows.map(({ key: name, commissions }) => [name, { commissions }]));
}
