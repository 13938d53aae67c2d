import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pino } from 'pino';
import { expect, it } from 'vitest';
import { readConfig } from '../src/base/config';
import { sendDue } from '../src/base/outbox/outbox';
import { isTireless, type Senders, sendRow } from '../src/base/outbox/registry';
import { openServices } from '../src/openServices';
import { linesOf, orderOfCart, wasPaid } from '../src/orders/store';
import type { NewOrder } from '../src/orders/write';
import { payCart } from '../src/payments/pay';
import type { ChargeAnswer } from '../src/payments/provider';
import { reconcile, settleByKey } from '../src/payments/reconcile';
import { giveBack } from '../src/payments/settle';
import { createShop } from '../src/shop/store';
import { numbers } from './support/random';
import type { TestServices } from './support/services';
import { cartOf, openAccount, saying } from './support/till';

const CARTS = 6;
const MOMENTS = 60;
const HOUR = 60 * 60_000;
/** A request that is on its way arrives within so long, or never. */
const LATEST_ARRIVAL = 30_000;

interface Truth {
  id: string;
  cartId: string;
  /** When it reaches the processor. */
  at: number;
  outcome: 'captured' | 'declined' | 'never';
  givenBack: boolean;
}

/** A shop whose processor loses, doubles and garbles its answers, and whose server ends at any moment. */
class Trial {
  readonly now = { at: Date.UTC(2026, 5, 1, 12) };
  readonly truths = new Map<string, Truth>();
  readonly random: () => number;
  private readonly dataDir = mkdtempSync(path.join(tmpdir(), 'ruta-trial-'));
  services: ReturnType<typeof openServices>;
  private carts: NewOrder[] = [];
  private current = '';
  calm = false;

  constructor(seed: number) {
    this.random = numbers(seed);
    this.services = this.open();
    createShop(this.services.db, {
      name: 'Perigee Lane',
      country: 'PT',
      currency: 'EUR',
      timeZone: 'Europe/Lisbon',
      pricesIncludeTax: true,
      contactEmail: 'ines@perigeelane.test',
      mode: 'live',
    });
    openAccount(this.services as unknown as TestServices, 'acc_1');
    const cart = cartOf({ ...this.services, moment: this.now } as unknown as TestServices);
    this.carts = Array.from({ length: CARTS }, (_, index) => ({
      ...cart,
      cartId: `crt_trial${index}00`,
      buyer: { ...cart.buyer, email: `buyer${index}@moonmail.test` },
    }));
  }

  private open() {
    const services = openServices({ ...readConfig({}), dataDir: this.dataDir }, pino({ level: 'silent' }), { now: () => this.now.at });
    const quayside = saying(
      (request) => this.charge(request.idempotencyKey),
      () => ({ state: 'no-answer' }),
    );
    quayside.find = async (_account, key) => (this.happens(0.3) ? { state: 'no-answer' } : this.answerOf(key));
    quayside.void = async (_account, id) => this.giveBack(id);
    quayside.refund = async (_account, { providerChargeId }) => (this.giveBack(providerChargeId) ? { state: 'refunded' } : { state: 'no-answer' });
    services.providers = { quayside };
    return services;
  }

  private happens = (share: number) => !this.calm && this.random() < share;

  /** What the processor knows of a charge now. */
  private answerOf(key: string): ChargeAnswer {
    const truth = this.truths.get(key);
    if (!truth || truth.outcome === 'never' || truth.at > this.now.at) return { state: 'unknown-charge' };
    const known = { providerChargeId: truth.id, last4: '0019' };
    if (truth.outcome === 'declined') return { state: 'declined', ...known, reason: 'no-funds' };
    return truth.givenBack ? { state: 'voided', ...known } : { state: 'captured', ...known };
  }

  private charge(key: string): ChargeAnswer {
    if (!this.truths.has(key)) {
      const fate = this.random();
      const late = this.happens(0.2) ? Math.floor(this.random() * LATEST_ARRIVAL) : 0;
      const outcome = fate < 0.55 ? 'captured' : fate < 0.85 || this.calm ? 'declined' : 'never';
      this.truths.set(key, { id: `qs_${this.truths.size}`, cartId: this.current, at: this.now.at + late, outcome, givenBack: false });
    }
    // The server ends while it waits for the answer.
    if (this.happens(0.15)) {
      this.services.close();
      throw new Error('the server has ended');
    }
    const answer = this.answerOf(key);
    // Lost, cut off or nonsense is all the same to who waits: it may have happened.
    return this.happens(0.4) || answer.state === 'unknown-charge' ? { state: 'no-answer' } : answer;
  }

  private giveBack(id: string): boolean {
    if (this.happens(0.5)) return false;
    for (const truth of this.truths.values()) if (truth.id === id) truth.givenBack = true;
    // Done, but the answer is lost.
    return !this.happens(0.3);
  }

  /** Money of a cart that is at the shop now, or may still arrive. */
  taken = (cartId: string) => [...this.truths.values()].filter((truth) => truth.cartId === cartId && truth.outcome === 'captured' && !truth.givenBack);

  async pays(index: number): Promise<void> {
    const cart = this.carts[index] as NewOrder;
    this.current = cart.cartId;
    const outcome = await payCart(this.services, cart, 'tok_1', () => 'http://127.0.0.1/return').catch(() => null);
    if (!outcome) {
      this.services = this.open();
      return;
    }
    // Nobody is told that nothing was charged unless that is certain.
    if (outcome.state === 'declined') expect(this.taken(cart.cartId), 'told declined').toEqual([]);
    if (outcome.state === 'paid') expect(this.taken(cart.cartId), 'told paid').toHaveLength(1);
  }

  /** News of a charge, perhaps of one that is long settled, perhaps twice. */
  async news(): Promise<void> {
    const keys = [...this.truths.keys()];
    const key = keys[Math.floor(this.random() * keys.length)];
    for (let times = this.happens(0.5) ? 2 : 1; key && times > 0; times--) await settleByKey(this.services, key);
  }

  async works(): Promise<void> {
    await reconcile(this.services);
    const senders = { 'void-charge': ({ chargeId }: { chargeId: string }) => giveBack(this.services, chargeId) } as unknown as Senders;
    await sendDue(this.services, (row) => sendRow(senders, row), { only: ['void-charge'] }, isTireless);
  }

  /** At no moment is a cart's money at the shop twice, nor an order paid that nobody has paid for. */
  holds(): void {
    for (const { cartId } of this.carts) {
      expect(this.taken(cartId).length, 'taken at once').toBeLessThanOrEqual(1);
      const order = orderOfCart(this.services.db, cartId);
      if (order && wasPaid(order.state)) expect(this.taken(cartId), 'paid for').toHaveLength(1);
    }
  }

  /** In the end every captured charge has its order, with its line, and every order its charge. */
  ends(): void {
    for (const { cartId } of this.carts) {
      const order = orderOfCart(this.services.db, cartId);
      const isPaid = order !== undefined && wasPaid(order.state);
      expect([cartId, this.taken(cartId).length]).toEqual([cartId, isPaid ? 1 : 0]);
      if (order) expect(linesOf(this.services.db, order.id).filter(({ role }) => role === 'main')).toHaveLength(isPaid ? 1 : 0);
    }
  }

  restart(): void {
    this.services.close();
    this.services = this.open();
  }

  leave(): void {
    this.services.close();
    rmSync(this.dataDir, { recursive: true, force: true });
  }
}

it.each([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])(
  'money and orders agree, whatever is lost, doubled, late or ends at any moment of a payment (seed %i)',
  async (seed) => {
    const trial = new Trial(seed);
    try {
      for (let moment = 0; moment < MOMENTS; moment++) {
        const what = trial.random();
        if (what < 0.5) await trial.pays(Math.floor(trial.random() * CARTS));
        else if (what < 0.65) await trial.news();
        else if (what < 0.9) await trial.works();
        else trial.restart();
        trial.holds();
        trial.now.at += Math.floor(trial.random() * 20_000);
      }
      // The processor has come to itself; what was begun is finished by the clock alone.
      trial.calm = true;
      for (let hour = 0; hour < 30; hour++) {
        await trial.works();
        trial.now.at += HOUR;
      }
      trial.holds();
      trial.ends();
      expect(trial.truths.size, 'something was charged at all').toBeGreaterThanOrEqual(CARTS);
    } finally {
      trial.leave();
    }
  },
);
