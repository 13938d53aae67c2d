import { type Currency, formatMoney } from '@ruta/core/money';
import { RefundInputSchema, type RefundRequest, refund as returned } from '@ruta/core/orders';
import type { TrackedEvent } from '@ruta/core/tracking';
import { and, eq } from 'drizzle-orm';
import { tallyOrder } from '../arms/tally';
import type { Db } from '../base/db';
import { newId } from '../base/ids';
import { mail } from '../base/outbox/kinds/mail';
import { refund as refundKind } from '../base/outbox/kinds/refund';
import { enqueue } from '../base/outbox/outbox';
import { fieldRefusal, Refusal } from '../base/problem';
import { countPaid } from '../contacts/store';
import { takeBack } from '../delivery/takeBack';
import { letterhead } from '../mail/letterhead';
import { refundMail } from '../mail/refundMail';
import { countRefunded, findRefund, type RefundRow, refundsOf } from '../orders/refunded';
import { type ChargeRow, chargesOfOrder, findCharge, type LineRow, linesOf, loadOrder, type OrderRow } from '../orders/store';
import { refunds } from '../orders/tables';
import { recountCommissions } from '../partners/earn';
import { endPlans } from '../plans/store';
import type { Tracked } from '../tracking/recorder';
import { events } from '../tracking/tables';
import { makeEvent } from '../tracking/visitor';
import { accountOf, type Paying, providerOf } from './accounts';

type Needs = Tracked & Paying;

/** The captured charge that can give money of a payment back; undefined where its account is not connected here. */
export function refundableCharge(services: Needs, charges: readonly ChargeRow[], paymentId: string): ChargeRow | undefined {
  return charges.find(
    (charge) => charge.paymentId === paymentId && charge.state === 'captured' && charge.providerChargeId && accountOf(services, charge.accountId),
  );
}

/**
 * Gives money of an order back: it counts on the lines at once, so that nobody can give the same back twice, and the
 * processor is asked in the background, one refund for each payment. Asked again with the same id, nothing more happens.
 * @throws Refusal 400 at its place, and nothing is given back, if more is asked than is left
 */
export function giveMoneyBack(services: Needs, orderId: string, request: RefundRequest): RefundRow[] {
  const { db, clock } = services;
  return db.transaction((tx) => {
    const order = loadOrder(tx, orderId);
    const known = refundsOf(tx, orderId);
    if (known.some(({ askedId }) => askedId === request.id)) return known;
    const lines = linesOf(tx, orderId).filter(({ partOf }) => partOf === null);
    const charges = chargesOfOrder(tx, orderId);
    const asked = RefundInputSchema.safeParse({
      lines: lines.map(({ id, total, tax, refunded }) => ({ id, total, tax, refunded })),
      refund: request.lines,
    });
    if (!asked.success) {
      const index = request.lines.findIndex(({ id, amount }) => {
        const line = lines.find((candidate) => candidate.id === id);
        return !line || amount > line.total - line.refunded;
      });
      const line = lines.find(({ id }) => id === request.lines[index]?.id);
      if (index < 0 || !line) throw fieldRefusal('lines', 'This order has no such line any more. Look at it again.');
      const left = formatMoney(line.total - line.refunded, order.currency as Currency);
      throw fieldRefusal(`lines.${index}.amount`, `Only ${left} is left of ${line.name}. Nothing was given back.`);
    }
    const result = returned(asked.data);
    const byPayment = new Map<string, typeof result.lines>();
    for (const part of result.lines) {
      const paymentId = lines.find(({ id }) => id === part.id)?.paymentId ?? '';
      byPayment.set(paymentId, [...(byPayment.get(paymentId) ?? []), part]);
    }
    for (const [paymentId, parts] of byPayment) {
      const charge = request.way === 'processor' ? refundableCharge(services, charges, paymentId) : undefined;
      if (request.way === 'processor' && !charge)
        throw new Refusal(409, 'This was charged at an account that is not connected here. Give it back there, then note it here.');
      const sum = (of: (part: (typeof parts)[number]) => number) => parts.reduce((all, part) => all + of(part), 0);
      const row: RefundRow = {
        id: newId(clock, 'refund'),
        askedId: request.id,
        orderId,
        paymentId,
        chargeId: charge?.id ?? null,
        way: request.way,
        state: 'pending',
        amount: sum(({ amount }) => amount),
        tax: sum(({ tax }) => tax),
        lines: parts.map(({ id, amount }) => ({ id, amount })),
        reason: request.reason,
        takesBack: request.takesBack,
        tells: request.tells,
        failure: null,
        createdAt: clock.now(),
        doneAt: null,
      };
      tx.insert(refunds).values(row).run();
      count(tx, services, order, row, 1);
      if (request.way === 'noted') finish(tx, services, row);
      else
        enqueue(tx, services, refundKind, {
          payload: { refundId: row.id, words: formatMoney(row.amount, order.currency as Currency) },
          idempotencyKey: `refund ${row.id}`,
          orderId,
        });
    }
    return refundsOf(tx, orderId);
  });
}

/** Writes down what was given back without being asked for here; nobody is asked and nobody is told, since it has happened. */
export function noteGivenBack(tx: Db, services: Tracked, charge: ChargeRow, parts: ReadonlyArray<{ id: string; amount: number }>, reason: string): void {
  const order = loadOrder(tx, charge.orderId);
  const lines = linesOf(tx, order.id).filter(({ partOf }) => partOf === null);
  const result = returned({ lines: lines.map(({ id, total, tax, refunded }) => ({ id, total, tax, refunded })), refund: [...parts] });
  const id = newId(services.clock, 'refund');
  const row: RefundRow = {
    ...{ id, askedId: id, orderId: order.id, paymentId: charge.paymentId, chargeId: charge.id, way: 'processor', state: 'pending' },
    ...{ amount: result.total, tax: result.tax, lines: [...parts], reason, takesBack: false, tells: false, failure: null },
    ...{ createdAt: services.clock.now(), doneAt: null },
  };
  tx.insert(refunds).values(row).run();
  count(tx, services, order, row, 1);
  finish(tx, services, row);
}

/** Asks the processor for a refund. @throws Error if it did not answer, so that it is asked again with the same key */
export async function sendRefund(services: Needs, refundId: string): Promise<void> {
  const { db } = services;
  const row = findRefund(db, refundId);
  if (row?.state !== 'pending') return;
  const charge = row.chargeId ? findCharge(db, row.chargeId) : undefined;
  const account = charge && accountOf(services, charge.accountId);
  if (!charge?.providerChargeId || !account) throw new Error('The account that took this money is not connected any more.');
  const answer = await providerOf(services, account).refund(account, {
    providerChargeId: charge.providerChargeId,
    amount: row.amount,
    idempotencyKey: row.id,
  });
  if (answer.state === 'no-answer') throw new Error('The processor did not answer.');
  db.transaction((tx) => {
    if (findRefund(tx, refundId)?.state !== 'pending') return;
    if (answer.state === 'refunded') finish(tx, services, row);
    else refuse(tx, services, row, answer.reason);
  });
}

/** What follows once money is back at its buyer. */
function finish(tx: Db, services: Tracked, row: RefundRow): void {
  tx.update(refunds).set({ state: 'done', doneAt: services.clock.now() }).where(eq(refunds.id, row.id)).run();
  const order = loadOrder(tx, row.orderId);
  const all = linesOf(tx, row.orderId);
  if (row.takesBack) takeBackGoods(tx, services, all, row);
  services.recorder.record(refundedEvent(tx, services, order, row));
  if (!row.tells) return;
  const given = all.filter(({ id }) => row.lines.some((line) => line.id === id));
  enqueue(tx, services, mail, {
    payload: refundMail(letterhead(services), {
      order,
      amount: formatMoney(row.amount, order.currency as Currency),
      goods: given.map(({ name, role }) => (role === 'shipping' ? 'shipping' : name)),
      isNoted: row.way === 'noted',
    }),
    idempotencyKey: `refund mail ${row.id}`,
    orderId: order.id,
  });
}

/** What was given back whole is not the buyer's any more. */
function takeBackGoods(tx: Db, services: Tracked, all: readonly LineRow[], row: RefundRow): void {
  const whole = all.filter((line) => line.refunded >= line.total && row.lines.some(({ id }) => id === line.id));
  const ids = whole.map(({ id }) => id);
  // The parts of a bundle go with it.
  takeBack(tx, services, [...ids, ...all.flatMap(({ id, partOf }) => (partOf && ids.includes(partOf) ? [id] : []))]);
  endPlans(tx, services, row.orderId, whole);
}

function refuse(tx: Db, services: Needs, row: RefundRow, failure: string): void {
  tx.update(refunds).set({ state: 'refused', failure, doneAt: services.clock.now() }).where(eq(refunds.id, row.id)).run();
  count(tx, services, loadOrder(tx, row.orderId), row, -1);
}

/** Counts a refund wherever money is counted: on lines, commissions, tests and with the buyer; or no more, once it is refused. */
function count(tx: Db, services: Tracked, order: OrderRow, { lines, amount }: RefundRow, by: 1 | -1): void {
  const counted = lines.map((line) => ({ id: line.id, amount: by * line.amount }));
  countRefunded(tx, order.id, counted);
  recountCommissions(tx, order.id);
  tallyOrder({ ...services, db: tx }, order.id);
  if (order.contactId && order.mode === 'live') countPaid(tx, order.contactId, -by * amount);
}

/** Nobody browses while money is given back: visit, device, campaign and presses are those of the sale. */
function refundedEvent(tx: Db, services: Tracked, order: OrderRow, row: RefundRow): TrackedEvent {
  const { amount, reason } = row;
  const now = makeEvent(services, 'order.refunded', order.mode, null, {
    funnelId: order.funnelId,
    stepId: order.stepId,
    publicationId: order.publicationId,
    orderId: order.id,
    contactId: order.contactId,
    data: { value: amount, currency: order.currency, reason, isWhole: order.state === 'refunded' },
  });
  const sale = tx
    .select()
    .from(events)
    .where(and(eq(events.orderId, order.id), eq(events.kind, 'order.paid')))
    .get();
  const { id, at, kind, data } = now;
  return sale ? { ...sale, id, at, kind, data, visitorId: null } : now;
}
