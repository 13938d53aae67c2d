import { createHash, randomBytes } from 'node:crypto';
import type { NewTwoFactor, TwoFactor } from '@ruta/core/team';
import argon2 from 'argon2';
import { and, eq, isNull, lt, or, sql } from 'drizzle-orm';
import { Secret, TOTP } from 'otpauth';
import { toString as qrCode } from 'qrcode';
import type { Db } from '../base/db';
import type { Limit } from '../base/limits';
import { fieldRefusal, Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { findShop } from '../shop/store';
import { endOthers } from './account';
import { users } from './tables';

type Needs = Pick<Services, 'db' | 'clock' | 'secrets' | 'limits'>;
type UserRow = typeof users.$inferSelect;

const SECRET_BYTES = 20;
const SLOT_MS = 30_000;
/** A code is good a slot before and after its own: clocks differ, and typing takes its time. */
const SLOTS_AROUND = 1;
const RECOVERY_CODES = 8;

/** Whoever gets here knows the password; six digits are soon guessed all the same by whoever may try for ever. */
const WRONG_CODES: Limit = { name: 'two-factor', most: 20, windowMs: 60 * 60_000 };

/** Codes by the clock as RFC 6238 has them, in the form that every authenticator app knows: SHA-1, six digits, thirty seconds. */
const totpOf = (secret: Secret, label = '', issuer = 'Ruta') => new TOTP({ secret, label, issuer, algorithm: 'SHA1', digits: 6, period: SLOT_MS / 1000 });

const fingerprint = (code: string) =>
  createHash('sha256')
    .update(code.toLowerCase().replace(/[^a-z0-9]/g, ''))
    .digest('base64url');

/** The time slot whose code this is; null for none that is good now. */
function slotOf(secret: Secret, code: string, now: number): number | null {
  const token = code.replace(/\s/g, '');
  if (!/^\d{6}$/.test(token)) return null;
  const delta = totpOf(secret).validate({ token, timestamp: now, window: SLOTS_AROUND });
  return delta === null ? null : Math.floor(now / SLOT_MS) + delta;
}

/**
 * Asks for the code of a sign-in, where one is asked for. Each is good once, from the app or of those for recovery.
 * @throws Refusal 401 at `code`
 */
export function checkCode({ db, clock, secrets, limits }: Needs, user: UserRow, given: string): void {
  if (user.twoFactorSecret === null) return;
  if (given === '') throw fieldRefusal('code', 'Enter the six digits that your authenticator app shows, or a recovery code.', 401);
  if (spendRecoveryCode(db, user.id, fingerprint(given))) return;
  if (limits.isReached(WRONG_CODES, user.id)) {
    throw fieldRefusal('code', 'Too many wrong codes. Use a recovery code, or wait an hour; and choose a new password, since somebody knows this one.', 429);
  }
  const slot = slotOf(Secret.fromBase32(secrets.decrypt(user.twoFactorSecret)), given, clock.now());
  if (slot === null || !spendSlot(db, user, slot)) {
    limits.count(WRONG_CODES, user.id);
    const words =
      slot === null ? 'This code is not right, or not any more. Enter the one that the app shows now.' : 'This code was used already. Wait for the next one.';
    throw fieldRefusal('code', words, 401);
  }
  limits.forget(WRONG_CODES, user.id);
}

/** Uses a recovery code up, in one statement with its condition: of many that are sent at once it opens for one. */
function spendRecoveryCode(db: Db, userId: string, code: string): boolean {
  const isLeft = sql`EXISTS (SELECT 1 FROM json_each(${users.recoveryCodes}) WHERE value = ${code})`;
  const others = sql`(SELECT json_group_array(value) FROM json_each(${users.recoveryCodes}) WHERE value <> ${code})`;
  const used = db
    .update(users)
    .set({ recoveryCodes: others })
    .where(and(eq(users.id, userId), isLeft))
    .run();
  return used.changes === 1;
}

/** The same with the code of a time slot: neither it nor an earlier one is good again. */
function spendSlot(db: Db, { id, twoFactorSecret }: UserRow, slot: number): boolean {
  const isUnused = or(isNull(users.twoFactorSlot), lt(users.twoFactorSlot, slot));
  const used = db
    .update(users)
    .set({ twoFactorSlot: slot })
    .where(and(eq(users.id, id), eq(users.twoFactorSecret, twoFactorSecret ?? ''), isUnused))
    .run();
  return used.changes === 1;
}

/** Makes what an authenticator app is to be told. Nothing is asked for until a code of it has come back. */
export async function beginTwoFactor({ db }: Pick<Services, 'db'>, email: string): Promise<NewTwoFactor> {
  const secret = new Secret({ buffer: new Uint8Array(randomBytes(SECRET_BYTES)).buffer });
  const words = totpOf(secret, email, findShop(db)?.settings.name || 'Ruta').toString();
  const svg = await qrCode(words, { type: 'svg', margin: 1, errorCorrectionLevel: 'M' });
  return { secret: secret.base32, picture: `data:image/svg+xml;base64,${Buffer.from(svg).toString('base64')}` };
}

async function loadWithPassword(db: Services['db'], userId: string, password: string): Promise<UserRow> {
  const user = db.select().from(users).where(eq(users.id, userId)).get();
  if (!user || !(await argon2.verify(user.passwordHash, password))) throw fieldRefusal('password', 'This is not your present password.');
  return user;
}

/**
 * Has codes asked for from now on, once one has come back from the app, and signs every other browser out.
 * @param secret what the app was told, in base 32
 * @returns the recovery codes, which are kept nowhere as they are
 * @throws Refusal at its field for a wrong password or code
 */
export async function turnTwoFactorOn(
  { db, clock, secrets }: Needs,
  who: { userId: string; sessionId: string },
  { secret: told, password, code }: { secret: string | undefined; password: string; code: string },
): Promise<string[]> {
  if (!told) throw new Refusal(409, 'This was begun too long ago, or in another browser. Begin again.');
  const user = await loadWithPassword(db, who.userId, password);
  const slot = slotOf(Secret.fromBase32(told), code, clock.now());
  if (slot === null) throw fieldRefusal('code', 'This is not the code that the app shows now. If it goes on so, set the clock of the phone by itself.');
  const recoveryCodes = Array.from({ length: RECOVERY_CODES }, () =>
    randomBytes(5)
      .toString('hex')
      .replace(/^(.{5})/, '$1-'),
  );
  db.transaction((tx) => {
    // Sent twice at once, the codes of one answer alone are good, and the other is told so.
    const isStill = user.twoFactorSecret === null ? isNull(users.twoFactorSecret) : eq(users.twoFactorSecret, user.twoFactorSecret);
    const turned = tx
      .update(users)
      .set({ twoFactorSecret: secrets.encrypt(told), twoFactorSlot: slot, recoveryCodes: recoveryCodes.map(fingerprint) })
      .where(and(eq(users.id, user.id), isStill))
      .run();
    if (turned.changes === 0) throw new Refusal(409, 'This was changed meanwhile. Look at it again.');
    endOthers(tx, user.id, who.sessionId);
  });
  return recoveryCodes;
}

/** Asks for no codes any more. @throws Refusal at its field for a wrong password */
export async function turnTwoFactorOff({ db }: Pick<Services, 'db'>, userId: string, password: string): Promise<void> {
  const user = await loadWithPassword(db, userId, password);
  db.update(users).set({ twoFactorSecret: null, twoFactorSlot: null, recoveryCodes: null }).where(eq(users.id, user.id)).run();
}

/** Whether somebody's sign-in asks for a code, and what they have left should the app be lost. */
export function twoFactorOf({ db }: Pick<Services, 'db'>, userId: string): TwoFactor {
  const user = db.select().from(users).where(eq(users.id, userId)).get();
  return { isOn: user?.twoFactorSecret != null, recoveryCodesLeft: user?.recoveryCodes?.length ?? 0 };
}
