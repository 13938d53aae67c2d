import { eq, lt } from 'drizzle-orm';
import session from 'express-session';
import type { Clock } from '../base/clock';
import type { Db } from '../base/db';
import { sessions } from './tables';

const SESSION_MS = 14 * 24 * 60 * 60 * 1000;

/** Keeps sign-ins in the shop's own database, so that a restart signs nobody out. */
export class SessionStore extends session.Store {
  constructor(
    private readonly db: Db,
    private readonly clock: Clock,
  ) {
    super();
  }

  override get(id: string, done: (error: unknown, data?: session.SessionData | null) => void): void {
    told(done, () => {
      const row = this.db.select().from(sessions).where(eq(sessions.id, id)).get();
      return row && row.expiresAt > this.clock.now() ? (JSON.parse(row.data) as session.SessionData) : null;
    });
  }

  override set(id: string, data: session.SessionData, done?: (error?: unknown) => void): void {
    told(done, () => {
      const values = { data: JSON.stringify(data), expiresAt: this.clock.now() + SESSION_MS };
      this.db
        .insert(sessions)
        .values({ id, ...values })
        .onConflictDoUpdate({ target: sessions.id, set: values })
        .run();
      this.db.delete(sessions).where(lt(sessions.expiresAt, this.clock.now())).run();
    });
  }

  override destroy(id: string, done?: (error?: unknown) => void): void {
    told(done, () => {
      this.db.delete(sessions).where(eq(sessions.id, id)).run();
    });
  }
}

/** Tells what came of it, a failure too: thrown out of here, as by a disk that is full, it would leave the request without an answer. */
function told<Value>(done: ((error: unknown, value?: Value) => void) | undefined, action: () => Value): void {
  let value: Value;
  try {
    value = action();
  } catch (error) {
    done?.(error);
    return;
  }
  done?.(null, value);
}

export const SESSION_COOKIE_MS = SESSION_MS;
