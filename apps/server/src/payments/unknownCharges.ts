import type { Currency } from '@ruta/core/money';
import type { UnknownCharge } from '@ruta/core/payments';
import { and, eq, sql } from 'drizzle-orm';
import { newId } from '../base/ids';
import { notFound, Refusal } from '../base/problem';
import type { Services } from '../base/services';
import { loadShop } from '../shop/store';
import { accountOf, type Paying, providerOf } from './accounts';
import type { ChargeAnswer } from './provider';
import { accounts, unknownCharges } from './tables';

type Needs = Pick<Services, 'db' | 'clock'>;

/**
 * Notes what a processor says of a charge that is known to no order here. Whoever began it wrote it down before the processor was
 * asked, so that it can only be from after a backup that was put back since. What is refunded there is no longer open.
 */
export function noteUnknown({ db, clock }: Needs, account: typeof accounts.$inferSelect, idempotencyKey: string, answer: ChargeAnswer): void {
  // In test mode no money was taken.
  if (account.mode === 'test') return;
  const isThis = and(eq(unknownCharges.accountId, account.id), eq(unknownCharges.idempotencyKey, idempotencyKey));
  const now = clock.now();
  const left = answer.state === 'captured' ? (answer.amount ?? 0) - (answer.refunded ?? 0) : 0;
  if (left <= 0) {
    const isBack = answer.state === 'captured' || answer.state === 'voided';
    if (isBack)
      db.update(unknownCharges)
        .set({ state: 'refunded', amount: 0, doneAt: now })
        .where(and(isThis, eq(unknownCharges.state, 'open')))
        .run();
    return;
  }
  if (answer.state !== 'captured') return;
  const known = db.select().from(unknownCharges).where(isThis).get();
  if (known) {
    if (known.amount !== left) db.update(unknownCharges).set({ amount: left }).where(eq(unknownCharges.id, known.id)).run();
    return;
  }
  const { providerChargeId, last4 } = answer;
  const values = { accountId: account.id, providerChargeId, idempotencyKey, amount: left, currency: loadShop(db).settings.currency, cardLast4: last4 };
  db.insert(unknownCharges)
    .values({ ...values, id: newId(clock, 'unknownCharge'), foundAt: now, state: 'open', doneAt: null })
    .run();
}

/** Charges that no order here knows of, the first found first. */
export const openUnknown = (db: Services['db']): UnknownCharge[] =>
  db
    .select({ charge: unknownCharges, provider: accounts.provider })
    .from(unknownCharges)
    .innerJoin(accounts, eq(accounts.id, unknownCharges.accountId))
    .where(eq(unknownCharges.state, 'open'))
    .orderBy(sql`${unknownCharges}.rowid`)
    .all()
    .map(({ charge, provider }) => ({ ...charge, currency: charge.currency as Currency, provider }));

function load(services: Paying, id: string) {
  const charge = services.db
    .select()
    .from(unknownCharges)
    .where(and(eq(unknownCharges.id, id), eq(unknownCharges.state, 'open')))
    .get();
  if (!charge) throw notFound('This charge');
  return charge;
}

/** Refunds one whole, at the account that took it. @throws Refusal 409 with what the processor says, 502 where it does not answer */
export async function refundUnknown(services: Paying, id: string): Promise<UnknownCharge[]> {
  const charge = load(services, id);
  const account = accountOf(services, charge.accountId);
  if (!account) throw new Refusal(409, 'The account that took this money is not connected any more. Refund it at the processor.');
  const { providerChargeId, amount } = charge;
  const answer = await providerOf(services, account).refund(account, { providerChargeId, amount, idempotencyKey: `${id}-${amount}` });
  if (answer.state === 'refused') throw new Refusal(409, `The processor says: ${answer.reason}`);
  if (answer.state === 'no-answer') throw new Refusal(502, 'The processor did not answer. Try again in a minute; it is refunded once only.');
  return finish(services, id, 'refunded');
}

/** Notes that one was dealt with by hand: entered in the books, or refunded elsewhere. */
export function dealtWith(services: Paying, id: string): UnknownCharge[] {
  return finish(services, load(services, id).id, 'dealt-with');
}

function finish({ db, clock }: Needs, id: string, state: 'refunded' | 'dealt-with'): UnknownCharge[] {
  db.update(unknownCharges)
    .set({ state, doneAt: clock.now() })
    .where(and(eq(unknownCharges.id, id), eq(unknownCharges.state, 'open')))
    .run();
  return openUnknown(db);
}
