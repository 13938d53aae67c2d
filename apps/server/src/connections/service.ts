import type { Mode } from '@ruta/core';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { Refusal } from '../http/problem';
import { newId } from '../ids';
import type { Services } from '../services';
import { loadShop } from '../shop/store';
import { connections } from './tables';

const AccountSchema = z.object({ id: z.string(), publicKey: z.string(), secretKeys: z.object({ test: z.string(), live: z.string() }) });
const SecretsSchema = z.object({ test: z.string(), live: z.string(), webhook: z.string() });

export interface QuaysideAccount {
  account: string;
  publicKey: string;
  secretKey: string;
  webhookSecret: string;
}

/** The connected card processor's account for a mode; undefined if there is none. */
export function quaysideAccount(services: Pick<Services, 'db' | 'secrets'>, mode: Mode): QuaysideAccount | undefined {
  const row = services.db.select().from(connections).where(eq(connections.provider, 'quayside')).get();
  if (!row) return undefined;
  const secrets = SecretsSchema.parse(JSON.parse(services.secrets.decrypt(row.secrets)));
  return { account: row.account, publicKey: row.publicKey, secretKey: secrets[mode], webhookSecret: secrets.webhook };
}

/** Whether the card processor is connected and answers. Secrets never leave the server. */
export async function quaysideStatus(services: Services) {
  const account = quaysideAccount(services, 'live');
  let reachable = false;
  if (services.config.standinsUrl) {
    reachable = await fetch(`${services.config.standinsUrl}/health`, { signal: AbortSignal.timeout(2000) })
      .then((response) => response.ok)
      .catch(() => false);
  }
  return { provider: 'quayside', connected: account !== undefined, account: account?.account ?? null, reachable };
}

/** Opens an account at the card processor and registers our webhook there. Doing it again changes nothing. */
export async function connectQuayside(services: Services) {
  const { config, db, secrets, clock } = services;
  if (quaysideAccount(services, 'live')) return quaysideStatus(services);
  if (!config.standinsUrl) throw new Refusal(409, 'The simulated services are switched off on this installation.');
  const call = async (method: string, path: string, body: object, key?: string): Promise<unknown> => {
    const response = await fetch(`${config.standinsUrl}/quayside/v1${path}`, {
      method,
      headers: { 'content-type': 'application/json', ...(key ? { authorization: `Bearer ${key}` } : {}) },
      body: JSON.stringify(body),
      signal: AbortSignal.timeout(config.providerTimeoutMs),
    }).catch(() => null);
    if (!response?.ok) throw new Refusal(502, 'Quayside cannot be reached. Try again in a minute.');
    return response.json();
  };
  const account = AccountSchema.parse(await call('POST', '/accounts', { name: loadShop(db).settings.name }));
  const webhook = z
    .object({ secret: z.string() })
    .parse(await call('PUT', '/webhook', { url: `${config.siteUrl}/webhooks/quayside` }, account.secretKeys.live));
  db.insert(connections)
    .values({
      id: newId(clock, 'connection'),
      provider: 'quayside',
      account: account.id,
      publicKey: account.publicKey,
      secrets: secrets.encrypt(JSON.stringify({ ...account.secretKeys, webhook: webhook.secret })),
      createdAt: clock.now(),
    })
    .onConflictDoNothing()
    .run();
  return quaysideStatus(services);
}
