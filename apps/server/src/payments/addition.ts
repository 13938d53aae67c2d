import { isUnderWay } from '@ruta/core/payments';
import { needsCard, type StoredQuote } from '@ruta/core/pricing';
import type { LiveServices } from '../funnel/live';
import { additionOf, chargesOf, loadOrder, loadPayment, type OrderRow, type PaymentRow } from '../orders/store';
import { openAddition } from '../orders/write';
import type { Tracked } from '../tracking/recorder';
import { accountForPayment, accountOf, type Paying } from './accounts';
import { beginCharge, cancelUnconfirmed, takeMoney } from './charging';
import { markAdded } from './fulfil';
import { keepMethod, methodOnFile } from './methods';
import type { PayOutcome } from './pay';
import type { OpenAccount } from './provider';

type Needs = Tracked & Paying & LiveServices;

/** What is added to a paid order. */
export interface Addition {
  order: OrderRow;
  stepId: string;
  offerId: string;
  quote: StoredQuote;
  /** Stands for a card that was typed now; empty for the one on file. */
  token: string;
}

const addingNow = new Map<string, Promise<PayOutcome>>();

/** What becomes of a yes that is being paid at this moment; undefined if none is. */
export const additionUnderWay = (orderId: string, offerId: string): Promise<PayOutcome> | undefined => addingNow.get(`${orderId} ${offerId}`);

/**
 * Pays something that is added to an order: with the card on file, or one that was typed. However often and however fast
 * this is called for one offer of an order, it is charged once: it has one payment that counts, with at most one charge
 * under way, and calls that arrive meanwhile share its outcome.
 */
export function payAddition(services: Needs, input: Addition, returnUrl: (payment: PaymentRow) => string): Promise<PayOutcome> {
  const key = `${input.order.id} ${input.offerId}`;
  const under = addingNow.get(key);
  if (under) return under;
  const running = attempt(services, input, returnUrl).finally(() => addingNow.delete(key));
  addingNow.set(key, running);
  return running;
}

async function attempt(services: Needs, input: Addition, returnUrl: (payment: PaymentRow) => string): Promise<PayOutcome> {
  const { db } = services;
  const { order, offerId, stepId, quote } = input;
  const known = additionOf(db, order.id, offerId);
  const last = known && chargesOf(db, known.id).at(-1);
  if (known && last?.state === 'needs-confirmation') await cancelUnconfirmed(services, last);
  if (known && (loadPayment(db, known.id).state === 'paid' || isWaiting(services, known.id))) return outcomeOfAddition(services, known.id);

  const paying = needsCard(quote) ? await sourceFor(services, input) : null;
  if (paying && 'refused' in paying) return { state: 'declined', order, reason: paying.refused };
  const begun = db.transaction((tx) => {
    const payment = openAddition(tx, services, { orderId: order.id, kind: 'addition', quote, methodId: paying?.methodId ?? null, stepId, offerId });
    if (payment.state === 'paid') return { payment, charge: null };
    if (payment.amount === 0) {
      markAdded(tx, services, loadOrder(tx, order.id), payment);
      return { payment, charge: null };
    }
    return { payment, charge: paying ? beginCharge(tx, services, order, payment, paying.account) : null };
  });
  const { payment, charge } = begun;
  if (!charge || !paying) return outcomeOfAddition(services, payment.id);
  const told = await takeMoney(services, { account: paying.account, order, charge, source: paying.source, returnUrl: returnUrl(payment) });
  if (told === null) return { state: 'waiting', order, addition: payment };
  return told.confirmUrl === null ? outcomeOfAddition(services, payment.id) : { state: 'confirm', order, addition: payment, url: told.confirmUrl };
}

type Source = { account: OpenAccount; methodId: string | null; source: { token: string; keep: boolean } | { method: string } };

/** What the money is taken from: a card that was typed now, which is kept for the next offer, else the one on file. */
async function sourceFor(services: Needs, { order, quote, token, offerId }: Addition): Promise<Source | { refused: string }> {
  if (token !== '') {
    const account = accountForPayment(services, order.mode, `${order.id} ${offerId}`, quote.dueToday);
    if (!account) return { refused: 'unavailable' };
    if (quote.plans.length === 0) return { account, methodId: null, source: { token, keep: true } };
    // What is due later is charged to a card that the processor keeps, and says beforehand that it does.
    const kept = await keepMethod(services, account, token);
    if (kept.state !== 'kept') return { refused: kept.state === 'declined' ? kept.reason : 'unavailable' };
    return { account, methodId: kept.id, source: { method: kept.reference } };
  }
  const method = methodOnFile(services.db, order.id);
  const account = method && accountOf(services, method.accountId);
  return method && account ? { account, methodId: method.id, source: { method: method.reference } } : { refused: 'no-method' };
}

const isWaiting = (services: Pick<Needs, 'db'>, paymentId: string) => chargesOf(services.db, paymentId).some((charge) => isUnderWay(charge.state));

/** Where an addition stands now. */
export function outcomeOfAddition(services: Pick<Needs, 'db'>, paymentId: string): PayOutcome {
  const { db } = services;
  const addition = loadPayment(db, paymentId);
  const order = loadOrder(db, addition.orderId);
  if (addition.state === 'paid') return { state: 'paid', order, addition };
  const last = chargesOf(db, paymentId).at(-1);
  if (!last || last.state === 'declined' || last.state === 'failed' || last.state === 'voided') {
    return { state: 'declined', order, addition, reason: last?.failure ?? 'declined' };
  }
  return { state: 'waiting', order, addition };
}
