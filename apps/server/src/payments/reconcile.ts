import { isUnderWay } from '@ruta/core/payments';
import { and, eq, gt, inArray, isNull, lte, or, sql } from 'drizzle-orm';
import { whyUnwritten } from '../base/writes';
import type { LiveServices } from '../funnel/live';
import { type ChargeRow, chargesOfOrder } from '../orders/store';
import { charges } from '../orders/tables';
import type { Tracked } from '../tracking/recorder';
import { accountOf, type Paying, providerOf } from './accounts';
import { cancelUnconfirmed, isBeingTaken } from './charging';
import type { ChargeAnswer } from './provider';
import { settle } from './settle';

type Needs = Tracked & Paying & LiveServices;

/** A charge that is asked after for a shorter time may still be on its way, also when the server was started anew meanwhile. */
const ON_ITS_WAY_MS = 60_000;
/** So long a charge that never arrived is asked after all the same, and so often. */
const LATE_WORD_MS = 24 * 60 * 60 * 1000;
const LATE_WORD_EVERY_MS = 10 * 60_000;
/** Who has not confirmed for so long does not any more. */
const UNCONFIRMED_MS = 2 * 24 * 60 * 60 * 1000;
/** Questions that bring nothing new come after waits that grow with the time gone by, however many ask meanwhile. */
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 10 * 60_000;
const PART_OF_AGE = 4;

/** Since when this server has been asking after a charge, by a watch that no change of the clock moves. */
const askedSince = new Map<string, number>();

/** Asks the processor of a charge's account after it. */
async function ask(services: Needs, charge: ChargeRow): Promise<ChargeAnswer> {
  const account = accountOf(services, charge.accountId);
  return account ? providerOf(services, account).find(account, charge.idempotencyKey) : { state: 'no-answer' };
}

/**
 * Asks the processors about every charge whose outcome is not known and finishes it: after a crash between charge and
 * order, a time-out, or a buyer who confirmed and never came back. What was given up as never arrived is still asked
 * after for a day, since a processor may have been late in taking it. One that does not answer holds up no other.
 */
export async function reconcile(services: Needs): Promise<void> {
  const now = services.clock.now();
  const open = services.db
    .select()
    .from(charges)
    .where(
      and(
        inArray(charges.state, ['pending', 'needs-confirmation']),
        // A wait that is longer than any was reckoned by a clock that has been set back since.
        or(isNull(charges.askAt), lte(charges.askAt, now), gt(charges.askAt, now + 2 * LONGEST_WAIT_MS)),
      ),
    )
    .all()
    .filter(({ id }) => !isBeingTaken(id));
  const late = services.db
    .select()
    .from(charges)
    .where(
      and(
        eq(charges.state, 'failed'),
        eq(charges.failure, 'never-arrived'),
        gt(charges.createdAt, now - LATE_WORD_MS),
        or(lte(charges.updatedAt, now - LATE_WORD_EVERY_MS), gt(charges.updatedAt, now + LATE_WORD_EVERY_MS)),
      ),
    )
    .all();
  const byAccount = grouped([...open, ...late]);
  await Promise.all([...byAccount.values()].map((ofAccount) => askAll(services, ofAccount)));
}

function grouped(all: readonly ChargeRow[]): Map<string | null, ChargeRow[]> {
  const found = new Map<string | null, ChargeRow[]>();
  for (const charge of all) found.set(charge.accountId, [...(found.get(charge.accountId) ?? []), charge]);
  return found;
}

/** Asks one account after its charges, one after the other, until it does not answer: the others wait for the next time. */
async function askAll(services: Needs, all: readonly ChargeRow[]): Promise<void> {
  for (const charge of all) {
    const answer = await ask(services, charge);
    try {
      if (charge.state === 'failed') hearLate(services, charge, answer);
      else await hear(services, charge, answer);
    } catch (error) {
      // What cannot be written at all is the same for all of them; anything else is this one's own, and holds up no other.
      if (whyUnwritten(error)) throw error;
      services.log.error({ err: error, charge: charge.id, answer: answer.state }, 'the news of a charge could not be written down');
      services.db
        .update(charges)
        .set({ askAt: services.clock.now() + LONGEST_WAIT_MS })
        .where(eq(charges.id, charge.id))
        .run();
    }
    if (answer.state === 'no-answer') return;
  }
}

async function hear(services: Needs, charge: ChargeRow, answer: ChargeAnswer): Promise<void> {
  const { db, clock } = services;
  const isOnItsWay = answer.state === 'unknown-charge' && watched(services, charge) < ON_ITS_WAY_MS;
  const waitsStill = answer.state === 'needs-confirmation' && charge.state === 'needs-confirmation';
  if (answer.state !== 'no-answer' && !isOnItsWay && !waitsStill) {
    askedSince.delete(charge.id);
    settle(services, charge.id, answer);
    return;
  }
  if (waitsStill && clock.now() - charge.createdAt > UNCONFIRMED_MS) return cancelUnconfirmed(services, charge);
  // Somebody waits for the first answers; later ones have time.
  const wait = Math.min(Math.max(FIRST_WAIT_MS, watched(services, charge) / PART_OF_AGE), LONGEST_WAIT_MS);
  db.update(charges)
    .set({ asks: sql`${charges.asks} + 1`, askAt: Math.round(clock.now() + wait) })
    .where(eq(charges.id, charge.id))
    .run();
}

/** How long a charge has been on its way, as far as this server has watched it; milliseconds. */
function watched({ clock }: Pick<Needs, 'clock'>, { id, createdAt }: ChargeRow): number {
  if (!clock.elapsed) return clock.now() - createdAt;
  const since = askedSince.get(id) ?? clock.elapsed();
  askedSince.set(id, since);
  return clock.elapsed() - since;
}

/** Late word of a charge that was given up. */
function hearLate(services: Needs, charge: ChargeRow, answer: ChargeAnswer): void {
  if (answer.state !== 'unknown-charge' && answer.state !== 'no-answer') settle(services, charge.id, answer);
  else services.db.update(charges).set({ updatedAt: services.clock.now() }).where(eq(charges.id, charge.id)).run();
}

/**
 * Asks the processor about one order's unsettled charges now, for a buyer who is waiting.
 * @returns where the buyer has to confirm a charge, if one waits for that; null otherwise
 */
export async function reconcileOrder(services: Needs, orderId: string): Promise<string | null> {
  let confirmUrl: string | null = null;
  for (const charge of chargesOfOrder(services.db, orderId)) {
    if (!isUnderWay(charge.state)) continue;
    const answer = await ask(services, charge);
    if (answer.state !== 'unknown-charge') settle(services, charge.id, answer);
    if (answer.state === 'needs-confirmation') confirmUrl = answer.confirmUrl;
  }
  return confirmUrl;
}

/** Settles the charge that a webhook tells of, by asking the processor itself. @returns false if the key is not ours */
export async function settleByKey(services: Needs, idempotencyKey: string): Promise<boolean> {
  const charge = services.db.select().from(charges).where(eq(charges.idempotencyKey, idempotencyKey)).get();
  if (!charge) return false;
  const answer = await ask(services, charge);
  if (answer.state !== 'unknown-charge') settle(services, charge.id, answer);
  return true;
}
