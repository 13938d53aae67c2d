import { statfsSync } from 'node:fs';
import { sql } from 'drizzle-orm';
import type { Clock } from './clock';
import type { Db } from './db';

/** Why something could not be written down, in words that finish “because …”. */
const REASONS: ReadonlyArray<[code: RegExp, why: string]> = [
  [/^SQLITE_FULL|^ENOSPC|^EDQUOT/, 'the disk is full'],
  [/^SQLITE_READONLY|^EROFS|^EACCES|^EPERM/, 'the data folder cannot be written'],
  [/^SQLITE_BUSY|^SQLITE_LOCKED/, 'the database is busy with something long'],
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

const TRIES = 40;
const BETWEEN_MS = 150;

/** Does something that writes once the database is free, without anybody else having to wait meanwhile. */
export async function whenFree<Value>(action: () => Promise<Value> | Value): Promise<Value> {
  for (let tries = 1; ; tries++) {
    try {
      return await action();
    } catch (error) {
      if (!isBusy(error) || tries >= TRIES) throw error;
      await new Promise((resolve) => setTimeout(resolve, BETWEEN_MS));
    }
  }
}

/** With less than this left, the next thing that is written may be the one that does not fit; bytes. */
const LEAST_FREE = 2 * 1024 * 1024;

/** Whether what happens can be written down: said by health and by Today until it can again. */
export class Writes {
  private trouble: { since: number; why: string } | null = null;

  constructor(
    private readonly db: Db,
    private readonly dataDir: string,
    private readonly clock: Clock,
  ) {}

  /** Takes note of an error, if it kept something from being written. */
  note(error: unknown): void {
    const why = whyUnwritten(error);
    if (why) this.trouble = { since: this.trouble?.since ?? this.clock.now(), why };
  }

  /** Since when and why nothing can be written; null if it can. While something was wrong each question tries once. */
  standing(): { since: number; why: string } | null {
    if (this.isFull()) this.trouble = { since: this.trouble?.since ?? this.clock.now(), why: 'the disk is full' };
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
