import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { type Paying, providerOf } from './accounts';
import type { KeepAnswer, OpenAccount } from './provider';
import { paymentMethods } from './tables';

type Kept = { state: 'kept'; id: string; reference: string };

/** Has an account keep the card behind a token, and writes down what stands for it. Whose it is is known once they have paid. */
export async function keepMethod(
  services: Pick<Paying, 'db' | 'clock' | 'providers'>,
  account: OpenAccount | undefined,
  token: string,
): Promise<Kept | Exclude<KeepAnswer, { state: 'kept' }>> {
  if (!account) return { state: 'unavailable' };
  const provider = providerOf(services, account);
  const kept = await provider.keepMethod(account, token);
  if (kept.state !== 'kept') return kept;
  const id = newId(services.clock, 'method');
  services.db
    .insert(paymentMethods)
    .values({
      id,
      contactId: null,
      accountId: account.id,
      reference: kept.method,
      kind: provider.method,
      last4: kept.last4,
      createdAt: services.clock.now(),
      removedAt: null,
    })
    .run();
  return { state: 'kept', id, reference: kept.method };
}

/** Says whose a kept method is; call it in the transaction that pays. */
export function giveMethodTo(tx: Db, methodId: string, contactId: string): void {
  tx.update(paymentMethods).set({ contactId }).where(eq(paymentMethods.id, methodId)).run();
}
