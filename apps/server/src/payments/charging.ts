import type { Db } from '../base/db';
import { newId } from '../base/ids';
import type { Services } from '../base/services';
import type { LiveServices } from '../funnel/live';
import { type ChargeRow, chargesOf, type OrderRow, type PaymentRow } from '../orders/store';
import { charges } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import { accountOf, type Paying, providerOf } from './accounts';
import type { ChargeAnswer, OpenAccount } from './provider';
import { settle } from './settle';

type Needs = Tracked & Paying & LiveServices;

/** Writes a try to take the money of a payment, with a key of its own, before the processor is asked. */
export function beginCharge(tx: Db, { clock }: Pick<Services, 'clock'>, order: OrderRow, payment: PaymentRow, account: OpenAccount): ChargeRow {
  const now = clock.now();
  const tries = chargesOf(tx, payment.id).length;
  return tx
    .insert(charges)
    .values({
      id: newId(clock, 'charge'),
      orderId: order.id,
      paymentId: payment.id,
      accountId: account.id,
      provider: account.provider,
      mode: order.mode,
      idempotencyKey: `${payment.id}-${tries + 1}`,
      amount: payment.amount,
      currency: order.currency,
      state: 'pending',
      createdAt: now,
      updatedAt: now,
    })
    .returning()
    .get();
}

const takingNow = new Set<string>();
/** Whether a processor has been asked to take a charge and has not answered yet. */
export const isBeingTaken = (chargeId: string): boolean => takingNow.has(chargeId);

export interface Taking {
  account: OpenAccount;
  order: OrderRow;
  charge: ChargeRow;
  /** What stands for the card: a token used once, and perhaps kept from now on, or what was kept before. */
  source: { token: string; keep: boolean } | { method: string };
  returnUrl: string;
}

/**
 * Has an account take the money of a charge, and writes down what it said.
 * @returns where the buyer has to confirm, if they must; null if the answer could not be written down, so that nobody
 *   knows yet what became of it
 */
export async function takeMoney(services: Needs, { account, order, charge, source, returnUrl }: Taking): Promise<{ confirmUrl: string | null } | null> {
  takingNow.add(charge.id);
  const answer = await providerOf(services, account)
    .charge(account, {
      amount: charge.amount,
      currency: charge.currency,
      source: 'token' in source ? { token: source.token } : source,
      idempotencyKey: charge.idempotencyKey,
      reference: order.id,
      returnUrl,
      ...('token' in source && source.keep ? { keep: true } : {}),
    })
    .finally(() => takingNow.delete(charge.id));
  try {
    settle(services, charge.id, answer);
    return { confirmUrl: answer.state === 'needs-confirmation' ? answer.confirmUrl : null };
  } catch (error) {
    // The money may be taken, and what was done of it is undone as one. The charge stays open and is asked after until
    // it can be written down; nobody is told meanwhile that nothing happened.
    services.writes.note(error);
    services.log.error({ err: error, charge: charge.id, answer: answer.state }, 'the answer to a charge could not be written down');
    return null;
  }
}

/** Gives up a charge that still waits for the buyer's confirmation; what became of it otherwise is written down. */
export async function cancelUnconfirmed(services: Needs, charge: ChargeRow): Promise<void> {
  const account = accountOf(services, charge.accountId);
  if (charge.state !== 'needs-confirmation' || !charge.providerChargeId || !account) return;
  const provider = providerOf(services, account);
  const answer: ChargeAnswer = (await provider.cancel(account, charge.providerChargeId))
    ? { state: 'voided', providerChargeId: charge.providerChargeId, last4: charge.cardLast4 }
    : await provider.find(account, charge.idempotencyKey);
  settle(services, charge.id, answer);
}
