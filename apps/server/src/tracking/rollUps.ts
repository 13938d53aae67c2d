import { isGoal, type StepKind } from '@ruta/core/funnel';
import { dayFinder } from '@ruta/core/shop';
import type { TrackedEvent } from '@ruta/core/tracking';
import type { Database, Statement } from 'better-sqlite3';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { steps } from '../funnel/tables';
import { findShop } from '../shop/store';
import { rollUpOffer } from './offerShowings';
import { rollUpState } from './tables';

/** The place of everybody who came to the shop, at whatever funnel. */
export const WHOLE_SHOP = 'shop';
const STATE_ROW = 1;

/** When somebody first came to a place, and what was known of them then. */
interface First {
  firstAt: number;
  day: string;
  device: string;
  source: string;
  campaign: string;
  goalAt: number | null;
  leadAt: number | null;
}

/**
 * The earlier of two first moments; of two at the same moment the one that comes first by its words. So it does not matter
 * in which order events arrive.
 */
function isEarlier(one: First, other: First): boolean {
  if (one.firstAt !== other.firstAt) return one.firstAt < other.firstAt;
  const words = ({ source, campaign, device }: First) => `${source}\n${campaign}\n${device}`;
  return words(one) < words(other);
}
const earliest = (one: number | null, other: number | null): number | null => (one === null ? other : other === null ? one : Math.min(one, other));

/** Keeps the roll-ups beside the log. An event that comes twice, late or out of order leaves them as if it had come once, in time. */
export class RollUps {
  private readonly stepKinds = new Map<string, StepKind>();
  private readonly find: Statement<[number, string, string], First>;
  private readonly write: Statement<unknown[]>;
  private readonly count: Statement<unknown[]>;
  private state: { generation: number; timeZone: string; dayOf: (at: number) => string } | null = null;

  constructor(private readonly db: Db) {
    // The driver's own statements: for thousands of views a second the builder's mapping would cost more than the writing.
    const client = (db as Db & { $client: Database }).$client;
    this.find = client.prepare(
      'SELECT first_at AS firstAt, goal_at AS goalAt, lead_at AS leadAt, day, device, source, campaign FROM place_visitors WHERE generation = ? AND place_id = ? AND visitor_id = ?',
    );
    this.write = client.prepare(
      `INSERT INTO place_visitors (generation, place_id, visitor_id, first_at, goal_at, lead_at, day, device, source, campaign) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (generation, place_id, visitor_id) DO UPDATE SET first_at = excluded.first_at, goal_at = excluded.goal_at, lead_at = excluded.lead_at,
       day = excluded.day, device = excluded.device, source = excluded.source, campaign = excluded.campaign`,
    );
    this.count = client.prepare(
      `INSERT INTO place_days (generation, place_id, day, device, source, campaign, came, reached, leads) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)
       ON CONFLICT (generation, place_id, day, device, source, campaign) DO UPDATE SET came = came + excluded.came, reached = reached + excluded.reached, leads = leads + excluded.leads`,
    );
  }

  /** Which generation is read and kept. */
  get generation(): number {
    return this.current().generation;
  }

  /** The time zone by whose days the current generation counts. */
  get timeZone(): string {
    return this.current().timeZone;
  }

  /** Reads anew which generation is the current one. */
  forget(): void {
    this.state = null;
  }

  /**
   * Keeps what an event says. Test mode is left out of every figure; only deadlines of offers run there as well.
   * @param into of another generation than the current one, while that is made anew
   */
  apply(event: TrackedEvent, into?: { generation: number; dayOf: (at: number) => string }): void {
    rollUpOffer(this.db, event);
    const { visitorId, funnelId, stepId, kind, at, mode, campaign, device, data } = event;
    if (!visitorId || mode === 'test') return;
    const { generation, dayOf } = into ?? this.current();
    const first: First = {
      firstAt: at,
      day: dayOf(at),
      device: device ?? '',
      source: campaign?.source ?? '',
      campaign: campaign?.campaign ?? '',
      goalAt: null,
      leadAt: kind === 'lead.submitted' ? at : null,
    };
    if (kind === 'route.taken') this.keep(generation, String(data.routeId), visitorId, { ...first, leadAt: null });
    const stepKind = stepId ? this.stepKind(stepId) : undefined;
    const goalAt = stepKind && isGoal(stepKind, kind) ? at : null;
    const changed = stepId ? this.keep(generation, stepId, visitorId, { ...first, goalAt }) : true;
    // Whoever has been at the step before has been in the funnel and the shop before; only sales and leads say more there.
    if (!changed && kind !== 'order.paid' && kind !== 'lead.submitted') return;
    const bought = kind === 'order.paid' && Number(data.value ?? 0) > 0 ? at : null;
    for (const place of funnelId ? [funnelId, WHOLE_SHOP] : [WHOLE_SHOP]) this.keep(generation, place, visitorId, { ...first, goalAt: bought });
  }

  /** @returns whether anything is other than before */
  private keep(generation: number, placeId: string, visitorId: string, event: First): boolean {
    const known = this.find.get(generation, placeId, visitorId);
    const goalAt = earliest(known?.goalAt ?? null, event.goalAt);
    const leadAt = earliest(known?.leadAt ?? null, event.leadAt);
    const begins = !known || isEarlier(event, known);
    if (known && !begins && goalAt === known.goalAt && leadAt === known.leadAt) return false;
    const now: First = { ...(begins ? event : known), goalAt, leadAt };
    this.write.run(generation, placeId, visitorId, now.firstAt, goalAt, leadAt, now.day, now.device, now.source, now.campaign);
    if (known) this.add(generation, placeId, known, -1);
    this.add(generation, placeId, now, 1);
    return true;
  }

  private add(generation: number, placeId: string, { day, device, source, campaign, goalAt, leadAt }: First, by: 1 | -1): void {
    this.count.run(generation, placeId, day, device, source, campaign, by, goalAt === null ? 0 : by, leadAt === null ? 0 : by);
  }

  private current() {
    if (!this.state) {
      let row = this.db.select().from(rollUpState).where(eq(rollUpState.id, STATE_ROW)).get();
      if (!row) {
        row = { id: STATE_ROW, generation: 1, timeZone: findShop(this.db)?.settings.timeZone ?? 'UTC', rebuiltAt: null };
        this.db.insert(rollUpState).values(row).run();
      }
      this.state = { generation: row.generation, timeZone: row.timeZone, dayOf: dayFinder(row.timeZone) };
    }
    return this.state;
  }

  private stepKind(stepId: string): StepKind | undefined {
    let kind = this.stepKinds.get(stepId);
    if (!kind) {
      kind = this.db.select({ kind: steps.kind }).from(steps).where(eq(steps.id, stepId)).get()?.kind;
      if (kind) this.stepKinds.set(stepId, kind);
    }
    return kind;
  }
}
