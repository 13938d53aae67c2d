import { isNameOf, NAME_AS_PASSWORD, type SignedIn } from '@ruta/core/team';
import argon2 from 'argon2';
import { and, eq, gt } from 'drizzle-orm';
import type { Db } from '../base/db';
import { mail } from '../base/outbox/kinds/mail';
import { enqueue } from '../base/outbox/outbox';
import { fieldRefusal, notFound, Refusal } from '../base/problem';
import { revisionOf } from '../base/revision';
import type { Services } from '../base/services';
import { letterhead } from '../mail/letterhead';
import { resetMail } from '../mail/resetMail';
import { findShop } from '../shop/store';
import { sessions, users } from './tables';

type Needs = Pick<Services, 'db' | 'clock' | 'config' | 'secrets'>;

const MINUTE_MS = 60 * 1000;
/** A link to choose a new password is good for so long. */
const RESET_MS = 30 * MINUTE_MS;
/** So often at most one is sent to an address. */
const RESET_EVERY_MS = 5 * MINUTE_MS;

const LINK_ENDED = 'This link has ended, or was used already. Have another one sent.';

/** What a link is good for: this user, until this moment, and only as long as the password is the one it was sent for. */
const claim = (userId: string, until: number, passwordHash: string) => `reset ${userId} ${until} ${passwordHash}`;

/** Sends a link by which somebody of the team chooses a new password; to an address of nobody nothing is sent, and nothing is said. */
export function sendReset(services: Needs, email: string): void {
  const { db, clock, config, secrets } = services;
  const user = db.select().from(users).where(eq(users.email, email.toLowerCase())).get();
  if (!user || !findShop(db)) return;
  const until = clock.now() + RESET_MS;
  const token = `${user.id}.${until}.${secrets.sign(claim(user.id, until, user.passwordHash))}`;
  enqueue(db, services, mail, {
    payload: resetMail(letterhead(services), { to: user, url: `${config.studioUrl}/reset?token=${token}`, minutes: RESET_MS / MINUTE_MS }),
    idempotencyKey: `reset ${user.id} ${Math.floor(clock.now() / RESET_EVERY_MS)}`,
  });
}

/** Chooses a new password by a link that was sent, and ends every sign-in. @throws Refusal 410 for a link that is no good any more */
export async function resetPassword({ db, clock, secrets }: Needs, { token, password }: { token: string; password: string }): Promise<void> {
  const [userId = '', until = '', signature = ''] = token.split('.');
  const user = db.select().from(users).where(eq(users.id, userId)).get();
  const isGood = user && secrets.verify(claim(user.id, Number(until), user.passwordHash), signature) && Number(until) > clock.now();
  if (!isGood) throw new Refusal(410, LINK_ENDED);
  refuseShopName(db, password);
  const passwordHash = await argon2.hash(password);
  db.transaction((tx) => {
    // Good once: of many that are sent at once, one finds the password that the link was sent for.
    const changed = tx
      .update(users)
      .set({ passwordHash })
      .where(and(eq(users.id, user.id), eq(users.passwordHash, user.passwordHash)))
      .run();
    if (changed.changes === 0) throw new Refusal(410, LINK_ENDED);
    for (const { id } of rowsOf(tx, user.id)) tx.delete(sessions).where(eq(sessions.id, id)).run();
  });
}

/** Changes a password, and signs every other browser out. @throws Refusal 400 if the present one is wrong */
export async function changePassword(
  { db }: Needs,
  userId: string,
  sessionId: string,
  { current, password }: { current: string; password: string },
): Promise<void> {
  const user = db.select().from(users).where(eq(users.id, userId)).get();
  if (!user || !(await argon2.verify(user.passwordHash, current))) throw fieldRefusal('current', 'This is not your present password.');
  refuseShopName(db, password);
  const passwordHash = await argon2.hash(password);
  db.transaction((tx) => {
    const changed = tx
      .update(users)
      .set({ passwordHash })
      .where(and(eq(users.id, userId), eq(users.passwordHash, user.passwordHash)))
      .run();
    if (changed.changes === 0) throw fieldRefusal('current', 'This password was changed meanwhile.');
    endOthers(tx, userId, sessionId);
  });
}

/** @throws Refusal at its field for a password that is the shop's own name */
function refuseShopName(db: Db, password: string): void {
  const name = findShop(db)?.settings.name;
  if (name && isNameOf(password, name)) throw fieldRefusal('password', NAME_AS_PASSWORD);
}

/** Signs somebody out of every browser but this one. */
export function endOthers(tx: Db, userId: string, sessionId: string): void {
  for (const { id } of rowsOf(tx, userId)) if (id !== sessionId) tx.delete(sessions).where(eq(sessions.id, id)).run();
}

interface Kept {
  userId?: string;
  since?: number;
  browser?: string;
}
const rowsOf = (db: Db, userId: string) =>
  db
    .select()
    .from(sessions)
    .all()
    .map((row) => ({ ...row, kept: JSON.parse(row.data) as Kept }))
    .filter(({ kept }) => kept.userId === userId);

/** Where somebody is signed in, this browser first. */
export function sessionsOf({ db, clock }: Needs, userId: string, sessionId: string): SignedIn[] {
  return rowsOf(db, userId)
    .filter(({ expiresAt }) => expiresAt > clock.now())
    .map(({ id, kept }) => ({
      id: revisionOf(id),
      since: kept.since ?? null,
      browser: kept.browser ?? '',
      isThis: id === sessionId,
    }))
    .sort((a, b) => Number(b.isThis) - Number(a.isThis) || (b.since ?? 0) - (a.since ?? 0));
}

/** Signs one of somebody's own browsers out. @returns those that are left */
export function endSession(services: Needs, userId: string, sessionId: string, which: string): SignedIn[] {
  const { db, clock } = services;
  const row = rowsOf(db, userId).find(({ id }) => revisionOf(id) === which);
  if (!row) throw notFound('This sign-in');
  db.delete(sessions)
    .where(and(eq(sessions.id, row.id), gt(sessions.expiresAt, clock.now())))
    .run();
  return sessionsOf(services, userId, sessionId);
}
