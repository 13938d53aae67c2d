import { rmSync } from 'node:fs';
import Database from 'better-sqlite3';
import type { Happening } from './happening';
import type { visitors } from './tables';

type VisitorRow = typeof visitors.$inferSelect;

/** Views of one moment that wait to be written into the shop's database, with their visitors. */
interface Waiting {
  events: Happening[];
  visitors: VisitorRow[];
}

/**
 * Views that are gathered for a moment before they are written together stand here meanwhile, so that a server that ends
 * suddenly loses none of them, nor by whose link somebody came. A file of its own that is not synced at each write: what a process
 * has handed to the system outlives the process, and a view is not worth a turn of the disk.
 */
export class ViewJournal {
  private readonly raw: Database.Database;
  private readonly insert: Database.Statement<[string]>;
  private events: Happening[] = [];
  private readonly visitors = new Map<string, VisitorRow>();
  private writing: NodeJS.Immediate | null = null;
  private waitingForIt: Array<() => void> = [];

  constructor(
    file: string,
    private readonly onFailed: (error: unknown) => void = () => {},
  ) {
    this.raw = open(file);
    this.insert = this.raw.prepare('INSERT INTO views (view) VALUES (?)');
  }

  /** Keeps a view, together with the others of this moment. */
  add(event: Happening, visitor: VisitorRow): void {
    this.events.push(event);
    this.visitors.set(visitor.id, visitor);
    this.writing ??= setImmediate(() => this.write());
  }

  /** Does something once everything that was added so far is kept, or could not be. */
  afterwards(action: () => void): void {
    if (this.writing) this.waitingForIt.push(action);
    else action();
  }

  private write(): void {
    this.writing = null;
    const waiting: Waiting = { events: this.events, visitors: [...this.visitors.values()] };
    this.forget();
    try {
      if (waiting.events.length > 0) this.insert.run(JSON.stringify(waiting));
    } catch (error) {
      // They are in memory as well, and are written from there.
      this.onFailed(error);
    }
    const actions = this.waitingForIt;
    this.waitingForIt = [];
    for (const action of actions) action();
  }

  /** What a server that ended suddenly had not written yet. */
  waiting(): Array<{ event: Happening; visitor: VisitorRow }> {
    const rows = this.raw.prepare('SELECT view FROM views ORDER BY id').all() as Array<{ view: string }>;
    return rows.flatMap(({ view }) => {
      const { events, visitors } = JSON.parse(view) as Waiting;
      const byId = new Map(visitors.map((visitor) => [visitor.id, visitor]));
      return events.flatMap((event) => {
        const visitor = byId.get(event.browserId ?? event.visitorId ?? '');
        return visitor ? [{ event, visitor }] : [];
      });
    });
  }

  private forget(): void {
    this.events = [];
    this.visitors.clear();
  }

  /** Everything that was gathered so far stands in the shop's database now. */
  clear(): void {
    this.forget();
    try {
      this.raw.exec('DELETE FROM views');
    } catch (error) {
      // What comes twice is counted once, by its id.
      this.onFailed(error);
    }
  }

  close(): void {
    if (this.writing) clearImmediate(this.writing);
    this.raw.close();
  }
}

/** Opens the file; one that cannot be read is begun anew: it holds a quarter of a second of views at most. */
function open(file: string): Database.Database {
  try {
    return prepared(file);
  } catch {
    for (const end of ['', '-wal', '-shm']) rmSync(`${file}${end}`, { force: true });
    return prepared(file);
  }
}

function prepared(file: string): Database.Database {
  const raw = new Database(file);
  raw.pragma('journal_mode = WAL');
  raw.pragma('synchronous = NORMAL');
  raw.exec('CREATE TABLE IF NOT EXISTS views (id INTEGER PRIMARY KEY, view TEXT NOT NULL)');
  return raw;
}
