import { eq } from 'drizzle-orm';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { type ChargeRow, paymentsOf } from '../orders/store';
import { payments } from '../orders/tables';
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

/** Writes down what stands for a card that was kept with a charge, and that its payment is paid by it; call it in the transaction that settles. */
export function writeKept(tx: Db, { clock }: Pick<Paying, 'clock'>, charge: ChargeRow, reference: string, last4: string | null): void {
  if (charge.accountId === null) return;
  const id = newId(clock, 'method');
  tx.insert(paymentMethods)
    .values({ id, contactId: null, accountId: charge.accountId, reference, kind: 'card', last4, createdAt: clock.now(), removedAt: null })
    .run();
  tx.update(payments).set({ methodId: id }).where(eq(payments.id, charge.paymentId)).run();
}

export type MethodRow = typeof paymentMethods.$inferSelect;

/** The method that an order can be charged to without its buyer: what its latest payment was paid by, if it is still kept. */
export function methodOnFile(db: Db, orderId: string): MethodRow | undefined {
  const paidBy = paymentsOf(db, orderId).findLast(({ state, methodId }) => state === 'paid' && methodId !== null)?.methodId;
  const method = paidBy ? db.select().from(paymentMethods).where(eq(paymentMethods.id, paidBy)).get() : undefined;
  return method?.removedAt === null ? method : undefined;
}

/** Says whose a kept method is; call it in the transaction that pays. */
export function giveMethodTo(tx: Db, methodId: string, contactId: string): void {
  tx.update(paymentMethods).set({ contactId }).where(eq(paymentMethods.id, methodId)).run();
}
