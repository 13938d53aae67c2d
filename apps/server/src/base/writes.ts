import { statfsSync } from 'node:fs';
import type { Database } from 'better-sqlite3';
import { sql } from 'drizzle-orm';
import type { Clock } from './clock';
import { BUSY_TIMEOUT_MS, type Db } from './db';

const BUSY = 'the database is busy with something long';
/** What holds it no longer is nothing to be told of; milliseconds. */
const LONG_MS = 2000;

/** Why something could not be written down, in words that finish “because …”. */
const REASONS: ReadonlyArray<[code: RegExp, why: string]> = [
  [/^SQLITE_FULL|^ENOSPC|^EDQUOT/, 'the disk is full'],
  [/^SQLITE_READONLY|^EROFS|^EACCES|^EPERM/, 'the data folder cannot be written'],
  [/^SQLITE_BUSY|^SQLITE_LOCKED/, BUSY],
  [/^SQLITE_IOERR|^SQLITE_CANTOPEN|^EIO/, 'the disk does not answer'],
  [/^SQLITE_CORRUPT|^SQLITE_NOTADB/, 'the database is damaged'],
];

/** What the database or the disk called it; drivers and builders wrap one error in another. */
function codesOf(error: unknown): string[] {
  const found: string[] = [];
  for (let at = error; at instanceof Error; at = at.cause) found.push(String((at as NodeJS.ErrnoException).code ?? ''));
  return found;
}

/** Why an error kept something from being written; undefined for an error that has nothing to do with the disk. */
export function whyUnwritten(error: unknown): string | undefined {
  const codes = codesOf(error);
  return REASONS.find(([pattern]) => codes.some((code) => pattern.test(code)))?.[1];
}

/** Whether it only has to be tried again in a moment. */
const isBusy = (error: unknown): boolean => codesOf(error).some((code) => /^SQLITE_(BUSY|LOCKED)/.test(code));

const TRIES = 200;
const BETWEEN_MS = 150;
const pause = () => new Promise<void>((resolve) => setTimeout(resolve, BETWEEN_MS));

/**
 * Does something that writes once the database is free, without anybody else having to wait meanwhile. What it does must be whole or
 * not at all, since it is begun anew.
 */
export async function whenFree<Value>(writes: Pick<Writes, 'held' | 'free'>, action: () => Promise<Value> | Value): Promise<Value> {
  for (let tries = 1; ; tries++) {
    await writes.free();
    try {
      return await action();
    } catch (error) {
      if (!isBusy(error) || tries >= TRIES) throw error;
      writes.held();
      await pause();
    }
  }
}

const LOOKS_EVERY_MS = 100;

/** Looks whether somebody else is writing, and how long the driver waits for them: compiled once, since every request asks. */
function lockOf(raw: Database) {
  const [begin, commit] = [raw.prepare('BEGIN IMMEDIATE'), raw.prepare('COMMIT')];
  const [never, briefly] = [raw.prepare('PRAGMA busy_timeout = 0'), raw.prepare(`PRAGMA busy_timeout = ${BUSY_TIMEOUT_MS}`)];
  return {
    waitsNever: () => void never.get(),
    waitsBriefly: () => void briefly.get(),
    /** A database that cannot be written at all is nobody else's. */
    isTaken: (): boolean => {
      try {
        begin.run();
        commit.run();
        return false;
      } catch (error) {
        if (raw.inTransaction) raw.exec('ROLLBACK');
        return isBusy(error);
      }
    },
  };
}

/** With less than this left, the next thing that is written may be the one that does not fit; bytes. */
const LEAST_FREE = 2 * 1024 * 1024;

/** Whether what happens can be written down: said by health and by Today until it can again. */
export class Writes {
  private trouble: { since: number; why: string } | null = null;
  /** Since when another program holds the database. */
  private heldSince: number | null = null;
  private readonly raw: Database;
  private readonly lock: ReturnType<typeof lockOf>;

  constructor(
    private readonly db: Db,
    private readonly dataDir: string,
    private readonly clock: Clock,
  ) {
    this.raw = (db as Db & { $client: Database }).$client;
    this.lock = lockOf(this.raw);
  }

  /** Takes note of an error, if it kept something from being written. */
  note(error: unknown): void {
    const why = whyUnwritten(error);
    if (why) this.trouble = { since: this.trouble?.since ?? this.clock.now(), why };
    if (isBusy(error)) this.held();
  }

  /** Whether nobody else holds the database, looked at without waiting. */
  isFree(): boolean {
    if (this.heldSince !== null) return false;
    if (!this.raw.open || this.raw.inTransaction) return true;
    this.lock.waitsNever();
    if (this.lock.isTaken()) this.held();
    else this.lock.waitsBriefly();
    return this.heldSince === null;
  }

  /** Waits until nobody else holds the database, or for as long as anybody would wait for it, while everybody else is served. */
  async free(): Promise<void> {
    for (let looks = 0; looks < TRIES && !this.isFree(); looks++) await pause();
  }

  /**
   * Another program holds the database. The driver waits within a call, and everybody with it: from now on it does not wait at all,
   * until the database is found free again. Whoever writes meanwhile is told at once, and waits for themselves.
   */
  held(): void {
    if (this.heldSince !== null) return;
    this.heldSince = this.clock.now();
    this.lock.waitsNever();
    const timer = setInterval(() => {
      if (this.raw.open && (this.raw.inTransaction || this.lock.isTaken())) return;
      clearInterval(timer);
      this.heldSince = null;
      if (this.raw.open) this.lock.waitsBriefly();
    }, LOOKS_EVERY_MS).unref();
  }

  /** Since when and why nothing can be written; null if it can. While something was wrong each question tries once. */
  standing(): { since: number; why: string } | null {
    if (this.isFull()) this.trouble = { since: this.trouble?.since ?? this.clock.now(), why: 'the disk is full' };
    else if (this.heldSince !== null && this.clock.now() - this.heldSince > LONG_MS) this.trouble = { since: this.heldSince, why: BUSY };
    else if (this.trouble) this.tryAgain();
    return this.trouble;
  }

  /** Small things fit on a full disk for a while; what is left says it sooner. */
  private isFull(): boolean {
    try {
      const { bavail, bsize } = statfsSync(this.dataDir);
      return bavail * bsize < LEAST_FREE;
    } catch {
      // A folder that cannot even be looked at: a try to write says what is wrong.
      return false;
    }
  }

  private tryAgain(): void {
    try {
      // A row that stays as it is would not be written at all.
      this.db.run(sql`UPDATE installation SET write_tries = write_tries + 1`);
      this.trouble = null;
    } catch (error) {
      this.note(error);
    }
  }
}
