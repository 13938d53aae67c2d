import type { LineRole } from '@ruta/core/catalog';
import type { TrackedEvent } from '@ruta/core/tracking';
import { and, eq, sql } from 'drizzle-orm';
import type { Db } from '../base/db';
import { offerShowings } from './tables';

export type ShowingRow = typeof offerShowings.$inferSelect;

/** Keeps what an event says of an offer: shown first when, taken for how much, declined. Test orders too, since their deadlines run as well. */
export function rollUpOffer(db: Db, event: TrackedEvent): void {
  const { kind, orderId, funnelId, stepId, at, mode } = event;
  if ((kind !== 'offer.shown' && kind !== 'offer.taken' && kind !== 'offer.declined') || !orderId || !funnelId || !stepId) return;
  const { offerId, role, value } = event.data as { offerId: string; role: LineRole; value?: number };
  const answered = { takenAt: kind === 'offer.taken' ? at : null, declinedAt: kind === 'offer.declined' ? at : null, value: value ?? 0 };
  db.insert(offerShowings)
    .values({ offerId, orderId, funnelId, stepId, role, mode, shownAt: at, ...answered })
    .onConflictDoUpdate({
      target: [offerShowings.offerId, offerShowings.orderId],
      set: {
        shownAt: sql`min(${offerShowings.shownAt}, excluded.shown_at)`,
        takenAt: sql`coalesce(${offerShowings.takenAt}, excluded.taken_at)`,
        declinedAt: sql`coalesce(${offerShowings.declinedAt}, excluded.declined_at)`,
        value: sql`max(${offerShowings.value}, excluded.value)`,
      },
    })
    .run();
}

/** What the buyer of an order was shown, by the offer. */
export function showingsOf(db: Db, orderId: string): Map<string, ShowingRow> {
  const rows = db.select().from(offerShowings).where(eq(offerShowings.orderId, orderId)).all();
  return new Map(rows.map((row) => [row.offerId, row]));
}

/** What became of one offer in one order; undefined if it was never shown there. */
export function showingOf(db: Db, orderId: string, offerId: string): ShowingRow | undefined {
  return db
    .select()
    .from(offerShowings)
    .where(and(eq(offerShowings.orderId, orderId), eq(offerShowings.offerId, offerId)))
    .get();
}

/** The steps on which somebody has declined an offer in an order, and has not taken it since. */
export function declinedIn(db: Db, orderId: string): string[] {
  const rows = [...showingsOf(db, orderId).values()].filter(({ declinedAt, takenAt }) => declinedAt !== null && takenAt === null);
  return [...new Set(rows.map(({ stepId }) => stepId))];
}
