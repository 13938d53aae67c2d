import { type Credentials, type Setup, type User, UserSchema } from '@ruta/core/team';
import argon2 from 'argon2';
import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { fieldRefusal, Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { createShop, findShop } from '../shop/store';
import { refuseOtherCode } from './setupCode';
import { users } from './tables';
import { checkCode } from './twoFactor';

/** Creates the owner and the shop of a new installation. @throws Refusal 409 if there is an owner already, 403 without its code */
export async function setUp(services: Pick<Services, 'db' | 'clock' | 'config'>, setup: Setup): Promise<User> {
  const { db, clock } = services;
  if (!findShop(db)) refuseOtherCode(services, setup.code);
  const passwordHash = await argon2.hash(setup.password);
  return db.transaction((tx) => {
    if (findShop(tx) || tx.select().from(users).get()) throw new Refusal(409, 'This shop has an owner already. Sign in instead.');
    createShop(tx, { ...setup.shop, contactEmail: setup.email, mode: 'test' });
    const user = { id: newId(clock, 'user'), email: setup.email.toLowerCase(), name: setup.name, role: 'owner' as const };
    tx.insert(users)
      .values({ ...user, passwordHash, createdAt: clock.now() })
      .run();
    return user;
  });
}

// Verified when no such user exists, so that the time an answer takes does not tell which addresses have an account.
const decoyHash = argon2.hash('nobody has this password');

/**
 * The user whose address and password these are, and whose code, if they have one asked for.
 * @throws Refusal 401 without saying which of the two was wrong; at `code` only once they are right
 */
export async function signIn(services: Pick<Services, 'db' | 'clock' | 'secrets' | 'limits'>, credentials: Credentials): Promise<User> {
  const { db } = services;
  const user = db.select().from(users).where(eq(users.email, credentials.email.toLowerCase())).get();
  const matches = await argon2.verify(user?.passwordHash ?? (await decoyHash), credentials.password);
  if (!user || !matches) throw fieldRefusal('password', 'This address and password do not belong together.', 401);
  checkCode(services, user, credentials.code ?? '');
  return UserSchema.parse(user);
}

export function findUser(db: Db, id: string): User | undefined {
  const user = db.select().from(users).where(eq(users.id, id)).get();
  return user && UserSchema.parse(user);
}
