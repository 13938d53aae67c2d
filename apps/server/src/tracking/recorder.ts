import type { Database } from 'better-sqlite3';
import { eq, sql } from 'drizzle-orm';
import type { Logger } from 'pino';
import type { Db } from '../base/db';
import type { Services } from '../base/services';
import { Handovers } from './handovers';
import type { Happening } from './happening';
import { Newcomers } from './newcomers';
import { PassingVisits } from './passingVisits';
import { RollUps } from './rollUps';
import { events, visitors } from './tables';
import type { UntoldMoments } from './untold';
import type { ViewJournal } from './viewJournal';

/** How long views are gathered before they are written together: one flush to disk for many visitors. */
const GATHER_MS = 250;
const MAX_GATHERED = 2000;
/** What could not be written waits so long, and no more of it than this. */
const AGAIN_MS = 1000;
const MOST_WAITING = 20_000;

export type VisitorRow = typeof visitors.$inferSelect;

/** What areas that tell what happened work with. */
export interface Tracked extends Services {
  recorder: Recorder;
  untold: UntoldMoments;
}

/** What figures are counted with: in the thread of whoever asks, or in one that only reads. */
export interface Looking extends Pick<Services, 'db' | 'clock'> {
  recorder: Pick<Recorder, 'flush' | 'rollUps'>;
}

/** JSON columns are given to prepared statements as text, or as a true null. */
const json = (name: string) => sql`${sql.placeholder(name)}`;
const asJson = (value: object | null) => (value === null ? null : JSON.stringify(value));

type Values = Record<string, string | number | null>;

/**
 * Compiles an insert once to a statement of the driver itself: for thousands of views a second the builder's own
 * mapping of every value would cost more than the writing.
 * @returns runs it, and gives back how many rows it changed
 */
function compiled(db: Db, query: { toSQL(): { sql: string; params: unknown[] } }): (values: Values) => number {
  const { sql: text, params } = query.toSQL();
  const names = params.map((param) => placeholderName(param));
  const statement = (db as Db & { $client: Database }).$client.prepare(text);
  return (values) => statement.run(...names.map((name) => values[name] ?? null)).changes;
}

/** The name of a placeholder, bare or wrapped with its column's encoder. */
function placeholderName(param: unknown): string {
  const { name, value } = param as { name?: string; value?: { name: string } };
  const found = name ?? value?.name;
  if (!found) throw new Error('A compiled insert takes placeholders only.');
  return found;
}

/** The statements that views go through. */
function prepareStatements(db: Db) {
  const given = (name: string) => sql.placeholder(name);
  const changing = {
    countsAs: sql`excluded.counts_as`,
    contactId: sql`excluded.contact_id`,
    typed: sql`excluded.typed`,
    lastAt: sql`excluded.last_at`,
    visitId: sql`excluded.visit_id`,
    visits: sql`excluded.visits`,
    device: sql`excluded.device`,
    lastCampaign: sql`excluded.last_campaign`,
    lastClicks: sql`excluded.last_clicks`,
    address: sql`excluded.address`,
    agent: sql`excluded.agent`,
    consent: sql`excluded.consent`,
    partner: sql`excluded.partner`,
  };
  return {
    event: compiled(
      db,
      db
        .insert(events)
        .values({
          id: given('id'),
          at: given('at'),
          kind: given('kind'),
          mode: given('mode'),
          visitorId: given('visitorId'),
          visitId: given('visitId'),
          funnelId: given('funnelId'),
          stepId: given('stepId'),
          publicationId: given('publicationId'),
          orderId: given('orderId'),
          contactId: given('contactId'),
          device: given('device'),
          campaign: json('campaign'),
          firstCampaign: json('firstCampaign'),
          clicks: json('clicks'),
          arms: json('arms'),
          mayTell: given('mayTell'),
          data: json('data'),
        })
        .onConflictDoNothing(),
    ),
    visitor: compiled(
      db,
      db
        .insert(visitors)
        .values({
          id: given('id'),
          countsAs: given('countsAs'),
          contactId: given('contactId'),
          typed: json('typed'),
          firstAt: given('firstAt'),
          lastAt: given('lastAt'),
          visitId: given('visitId'),
          visits: given('visits'),
          device: given('device'),
          firstCampaign: json('firstCampaign'),
          lastCampaign: json('lastCampaign'),
          firstClicks: json('firstClicks'),
          lastClicks: json('lastClicks'),
          address: given('address'),
          agent: given('agent'),
          consent: json('consent'),
          partner: json('partner'),
        })
        .onConflictDoUpdate({ target: visitors.id, set: changing }),
    ),
    findVisitor: db
      .select()
      .from(visitors)
      .where(eq(visitors.id, given('id')))
      .prepare(),
  };
}

/**
 * Writes the log of events and the roll-up beside it. What belongs to an order or a lead is written at once, in the
 * transaction of its cause; views are gathered for a moment, so that thousands a second need few commits.
 */
export class Recorder {
  private gathered: Happening[] = [];
  private touched = new Map<string, VisitorRow>();
  private timer: NodeJS.Timeout | null = null;
  private readonly listeners: Array<(event: Happening) => void> = [];
  /** Visitors on their way here from pages elsewhere. */
  readonly handovers: Handovers;
  /** Who comes for the first time, by where from. */
  readonly newcomers = new Newcomers();
  /** Who comes by while nothing may be kept in their browser. */
  readonly passing = new PassingVisits();
  /** What of a browser is kept with its visitor, beside its kind. */
  wants: () => { address: boolean; agent: boolean } = () => ({ address: false, agent: false });
  /** What ad platforms are told, in words for whoever is asked; empty for nothing. */
  told: () => string = () => '';
  /** The id of the partner with a code; null if nobody has it. */
  partnerWith: (code: string) => string | null = () => null;
  /** Whether what was gathered can be written just now, without anybody waiting for it. */
  mayWrite: () => boolean = () => true;
  /** Counts anew what is counted beside the roll-ups, once they were made anew. */
  afterRebuild: () => Promise<void> = async () => {};
  /** The roll-ups beside the log. */
  readonly rollUps: RollUps;
  private readonly statements: ReturnType<typeof prepareStatements>;

  constructor(
    private readonly db: Db,
    private readonly log: Logger,
    private readonly onFailed: (error: unknown) => void = () => {},
    private readonly journal: Pick<ViewJournal, 'add' | 'clear' | 'afterwards'> | null = null,
  ) {
    this.statements = prepareStatements(db);
    this.rollUps = new RollUps(db);
    this.handovers = new Handovers(db);
  }

  /**
   * Records an event at once; inside a transaction it is part of it, since a shop has one connection. An id that was
   * recorded before changes nothing.
   */
  record(event: Happening): void {
    const { browserId, ...kept } = event;
    const added = this.statements.event({
      ...kept,
      campaign: asJson(event.campaign),
      firstCampaign: asJson(event.firstCampaign),
      clicks: asJson(event.clicks),
      arms: asJson(event.arms),
      mayTell: Number(event.mayTell),
      data: asJson(event.data),
    });
    // They keep the earliest moments, so that an event that comes twice changes nothing there either.
    this.rollUps.apply(event);
    if (added > 0) for (const listen of this.listeners) listen(event);
  }

  /** Tells somebody of every event that is new, in the transaction that records it. */
  onRecorded(listen: (event: Happening) => void): void {
    this.listeners.push(listen);
  }

  /** Writes a visitor, new or known; what was known of their first visit stays. */
  saveVisitor(visitor: VisitorRow): void {
    this.statements.visitor({
      ...visitor,
      firstCampaign: asJson(visitor.firstCampaign),
      lastCampaign: asJson(visitor.lastCampaign),
      firstClicks: asJson(visitor.firstClicks),
      lastClicks: asJson(visitor.lastClicks),
      consent: asJson(visitor.consent),
      partner: asJson(visitor.partner),
      typed: asJson(visitor.typed),
    });
  }

  /** Records an event and its visitor within a quarter of a second, together with others. */
  gather(event: Happening, visitor: VisitorRow): void {
    this.gathered.push(event);
    this.journal?.add(event, visitor);
    this.touched.set(visitor.id, visitor);
    if (this.gathered.length === MAX_GATHERED) this.flush();
    else this.timer ??= setTimeout(() => this.flush(), GATHER_MS);
  }

  /** Keeps a visitor of whom something is known although nothing is counted yet, together with others. */
  meet(visitor: VisitorRow): void {
    this.touched.set(visitor.id, visitor);
    this.timer ??= setTimeout(() => this.flush(), GATHER_MS);
  }

  /** Does something, such as to answer, once what was gathered outlives a sudden end. */
  onceKept(action: () => void): void {
    if (this.journal) this.journal.afterwards(action);
    else action();
  }

  /** Writes what has been gathered. */
  flush(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const [eventRows, visitorRows] = [this.gathered, [...this.touched.values()]];
    this.gathered = [];
    this.touched = new Map();
    if (eventRows.length === 0 && visitorRows.length === 0) return;
    if (!this.mayWrite()) {
      this.keepForLater(eventRows, visitorRows);
      return;
    }
    try {
      this.db.transaction(() => {
        for (const visitor of visitorRows) this.saveVisitor(visitor);
        for (const event of eventRows) this.record(event);
      });
      this.journal?.clear();
    } catch (error) {
      this.onFailed(error);
      this.log.error({ err: error, waiting: eventRows.length }, 'views could not be written');
      this.keepForLater(eventRows, visitorRows);
    }
  }

  /** What could not be written is tried again in a while; of very many the oldest are let go. */
  private keepForLater(eventRows: Happening[], visitorRows: VisitorRow[]): void {
    this.gathered = [...eventRows, ...this.gathered].slice(-MOST_WAITING);
    this.touched = new Map([...visitorRows.map((row) => [row.id, row] as const), ...this.touched]);
    this.timer ??= setTimeout(() => this.flush(), AGAIN_MS);
  }

  /** Keeps what is known of a visitor since, so that one who is still gathered is not written without it. */
  knows(visitorId: string, known: Partial<Pick<VisitorRow, 'contactId' | 'typed' | 'consent'>>): void {
    const gathered = this.touched.get(visitorId);
    if (gathered) this.touched.set(visitorId, { ...gathered, ...known });
  }

  /** Writes what has been gathered if anything of it is of this visitor, so that it is known what is new of it. */
  flushOf(visitorId: string): void {
    if (this.touched.has(visitorId)) this.flush();
  }

  /** A visitor as last known: perhaps not written yet. */
  visitor(id: string): VisitorRow | undefined {
    return this.touched.get(id) ?? this.statements.findVisitor.get({ id });
  }
}
