import type Database from 'better-sqlite3';
import type { Db } from './db';

interface Waiting {
  write: () => unknown;
  done: (value: unknown) => void;
  failed: (error: unknown) => void;
}

/**
 * Writes of several requests with one durable commit: each commit waits for the disk, and in a rush there are many in the
 * same moment. Whoever waits is answered only once what they wrote is on the disk.
 */
export class Together {
  private waiting: Waiting[] = [];

  constructor(private readonly db: Db) {}

  /** @param write one statement, or one transaction of its own; it must not wait for anything */
  write<Value>(write: () => Value): Promise<Value> {
    return new Promise((resolve, reject) => {
      this.waiting.push({ write, done: resolve as (value: unknown) => void, failed: reject });
      if (this.waiting.length === 1) setImmediate(() => this.flush());
    });
  }

  private flush(): void {
    const all = this.waiting;
    this.waiting = [];
    const { $client: raw } = this.db as Db & { $client: Database.Database };
    const written: Array<() => void> = [];
    try {
      raw.exec('BEGIN IMMEDIATE');
      for (const { write, done, failed } of all) {
        try {
          const value = write();
          written.push(() => done(value));
        } catch (error) {
          // A statement that fails leaves nothing behind; a full disk ends the whole, which is told below.
          if (!raw.inTransaction) throw error;
          written.push(() => failed(error));
        }
      }
      raw.exec('COMMIT');
    } catch (error) {
      if (raw.inTransaction) raw.exec('ROLLBACK');
      for (const { failed } of all) failed(error);
      return;
    }
    for (const tell of written) tell();
  }
}
