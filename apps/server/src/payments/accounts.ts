import type { Connection } from '@ruta/core/connections';
import { chooseAccount } from '@ruta/core/payments';
import type { Mode } from '@ruta/core/shop';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { z } from 'zod';
import { builtOnce } from '../base/db';
import { newId } from '../base/ids';
import { Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { charges } from '../orders/tables';
import { loadShop } from '../shop/store';
import type { OpenAccount, PaymentProvider } from './provider';
import type { ProviderName, Providers } from './providers/registry';
import { accounts } from './tables';

/** What areas that take money work with. */
export interface Paying extends Services {
  providers: Providers;
}

/** The first release kept the keys of both modes in one place; an account now has its own. */
const SecretsSchema = z.union([
  z.object({ secretKey: z.string(), webhookSecret: z.string() }),
  z.object({ test: z.string(), live: z.string(), webhook: z.string() }),
]);

type Needs = Pick<Services, 'db' | 'secrets'>;

const byId = builtOnce((db) =>
  db
    .select()
    .from(accounts)
    .where(eq(accounts.id, sql.placeholder('id')))
    .prepare(),
);
const openByMode = builtOnce((db) =>
  db
    .select()
    .from(accounts)
    .where(and(eq(accounts.mode, sql.placeholder('mode')), isNull(accounts.closedAt)))
    .orderBy(asc(accounts.createdAt), asc(accounts.id))
    .prepare(),
);

/** An account opened for use. */
function open({ secrets }: Pick<Services, 'secrets'>, row: typeof accounts.$inferSelect): OpenAccount {
  const sealed = SecretsSchema.parse(JSON.parse(secrets.decrypt(row.secrets)));
  const keys = 'secretKey' in sealed ? sealed : { secretKey: sealed[row.mode], webhookSecret: sealed.webhook };
  return { id: row.id, provider: row.provider, mode: row.mode, reference: row.reference, publicKey: row.publicKey, ...keys };
}

/** The account of an id, even if it is closed: what was taken there is given back there. */
export function accountOf(services: Needs, id: string | null): OpenAccount | undefined {
  const row = id === null ? undefined : byId(services.db).get({ id });
  return row && open(services, row);
}

/** Accounts of a mode that take money now, in the order they were opened. */
function accountsFor({ db }: Pick<Services, 'db'>, mode: Mode) {
  return openByMode(db).all({ mode });
}

/** Whether anybody can pay in a mode. */
export const takesCards = (services: Pick<Services, 'db'>, mode: Mode): boolean => accountsFor(services, mode).some((account) => account.weight > 0);

/** The account that a payment is tried at: the same one for all its tries, unless it is full. Undefined if there is none. */
export function accountForPayment(services: Needs, mode: Mode, paymentId: string, amount: number): OpenAccount | undefined {
  const candidates = accountsFor(services, mode).map((row) => ({ ...row, taken: row.cap === null ? 0 : takenBy(services, row.id) }));
  const chosen = chooseAccount(pointOf(paymentId), amount, candidates);
  return chosen && open(services, chosen);
}

/** What an account has taken, and what may still be on its way there, in minor units. */
function takenBy({ db }: Pick<Services, 'db'>, accountId: string): number {
  const row = db
    .select({ taken: sql<number>`coalesce(sum(${charges.amount}), 0)` })
    .from(charges)
    .where(and(eq(charges.accountId, accountId), sql`${charges.state} IN ('captured', 'pending', 'needs-confirmation')`))
    .get();
  return row?.taken ?? 0;
}

/** A number from 0 to 1 that is the same whenever it is asked for. */
function pointOf(text: string): number {
  let hash = 0;
  for (const letter of text) hash = (Math.imul(hash, 31) + letter.charCodeAt(0)) >>> 0;
  return hash / 2 ** 32;
}

/** The provider of an account. @throws Error if the installation has no such provider */
export function providerOf({ providers }: Pick<Paying, 'providers'>, { provider }: Pick<OpenAccount, 'provider'>): PaymentProvider {
  const found = Object.hasOwn(providers, provider) ? providers[provider as ProviderName] : undefined;
  if (!found) throw new Error(`This installation has no processor ${provider}.`);
  return found;
}

/** A provider's accounts and whether it answers. Secrets never leave the server. */
export async function providerStatus(services: Pick<Paying, 'db' | 'providers'>, name: ProviderName): Promise<Connection> {
  const account = accountsFor(services, 'live').find((row) => row.provider === name);
  return { provider: name, connected: account !== undefined, account: account?.reference ?? null, reachable: await services.providers[name].isReachable() };
}

/** Opens accounts at a provider, one for each mode. Doing it again changes nothing. @throws Refusal 502 if it cannot be reached */
export async function connectProvider(services: Paying, name: ProviderName): Promise<Connection> {
  const { db, clock, secrets, config } = services;
  if (!accountsFor(services, 'live').some((row) => row.provider === name)) {
    if (!config.standinsUrl) throw new Refusal(409, 'The simulated services are switched off on this installation.');
    const opened = await services.providers[name].openAccounts(loadShop(db).settings.name, `${config.siteUrl}/webhooks/${name}`).catch((error: Error) => {
      throw new Refusal(502, error.message);
    });
    db.transaction((tx) => {
      for (const { secretKey, webhookSecret, ...account } of opened) {
        tx.insert(accounts)
          .values({
            ...account,
            id: newId(clock, 'account'),
            provider: name,
            secrets: secrets.encrypt(JSON.stringify({ secretKey, webhookSecret })),
            weight: 1,
            cap: null,
            createdAt: clock.now(),
            closedAt: null,
          })
          .onConflictDoNothing()
          .run();
      }
    });
  }
  return providerStatus(services, name);
}

/** Accounts of a provider that could have sent a webhook. */
export function accountsAt(services: Needs, name: ProviderName): OpenAccount[] {
  return services.db
    .select()
    .from(accounts)
    .where(eq(accounts.provider, name))
    .all()
    .map((row) => open(services, row));
}

/** The frame in which a buyer types a card in a mode; null if nobody can pay. */
export function cardFieldsFor(services: Pick<Paying, 'db' | 'secrets' | 'providers'>, mode: Mode, paymentKey: string): { url: string; origin: string } | null {
  const account = accountForPayment(services, mode, paymentKey, 0);
  return account ? providerOf(services, account).cardFields(account) : null;
}
