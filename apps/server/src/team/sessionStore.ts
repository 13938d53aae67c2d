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
    const row = this.db.select().from(sessions).where(eq(sessions.id, id)).get();
    done(null, row && row.expiresAt > this.clock.now() ? (JSON.parse(row.data) as session.SessionData) : null);
  }

  override set(id: string, data: session.SessionData, done?: (error?: unknown) => void): void {
    const values = { data: JSON.stringify(data), expiresAt: this.clock.now() + SESSION_MS };
    this.db
      .insert(sessions)
      .values({ id, ...values })
      .onConflictDoUpdate({ target: sessions.id, set: values })
      .run();
    this.db.delete(sessions).where(lt(sessions.expiresAt, this.clock.now())).run();
    done?.();
  }

  override destroy(id: string, done?: (error?: unknown) => void): void {
    this.db.delete(sessions).where(eq(sessions.id, id)).run();
    done?.();
  }
}

export const SESSION_COOKIE_MS = SESSION_MS;
