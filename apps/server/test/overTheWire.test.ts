import { type ChildProcess, spawn } from 'node:child_process';
import path from 'node:path';
import Database from 'better-sqlite3';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Buyer, CARD, Seller } from './support/clients';
import { freePort, Installation, until } from './support/installation';
import { numbers } from './support/random';
import { FATES, type Fate, Wire } from './support/wire';

const BUYERS = 6;
const TRIES = 4;
const ENDS = 3;

const standinsPort = { http: 0, smtp: 0, dns: 0 };
let standins: ChildProcess;
let wire: Wire;
let ruta: Installation;
let funnel: Awaited<ReturnType<Seller['sellingFunnel']>>;
const direct = () => `http://127.0.0.1:${standinsPort.http}`;

beforeAll(async () => {
  Object.assign(standinsPort, { http: await freePort(), smtp: await freePort(), dns: await freePort() });
  standins = spawn(process.execPath, [path.resolve(import.meta.dirname, '../../standins/dist/main.js')], {
    env: {
      ...process.env,
      RUTA_STANDINS_PORT: String(standinsPort.http),
      RUTA_SMTP_PORT: String(standinsPort.smtp),
      RUTA_DNS_PORT: String(standinsPort.dns),
      STANDINS_WEBHOOK_DELAY_MS: '50',
      STANDINS_LATE_MS: '1500',
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  await until(async () => (await fetch(`${direct()}/health`).catch(() => null))?.ok === true, 'the processor answers');
  wire = await Wire.to(direct());
  // What goes wrong here is meant to, and need not be read.
  ruta = await Installation.start({ standinsAt: wire.port, settings: { RUTA_LOG: 'fatal' } });
  const seller = await Seller.ofNewShop(ruta.studio);
  funnel = await seller.sellingFunnel();
  wire.end = endAndStart;
});
afterAll(async () => {
  wire?.close();
  await ruta?.stop();
  standins?.kill();
});

/** Ends the server with no chance to tidy up, and starts it anew; who asks for it meanwhile waits for the same. */
let ending: Promise<void> | undefined;
function endAndStart(): Promise<void> {
  ending ??= (async () => {
    await ruta.killServer();
    await ruta.startServer();
  })().finally(() => {
    ending = undefined;
  });
  return ending;
}

/** What the processor has of a buyer's money, and what the shop has written down, at this moment. */
async function booksOf(email: string): Promise<{ taken: number; paid: number; goods: number }> {
  // What is taken is read first: it can only grow meanwhile by what the shop does not know yet.
  const { charges } = (await (await fetch(`${direct()}/quayside/v1/overview`)).json()) as {
    charges: Array<{ status: string; reference: string; amount: number; refunded: number }>;
  };
  const db = new Database(`${ruta.data}/shop.sqlite`, { readonly: true });
  try {
    const orders = db.prepare(`select id, state from orders where json_extract(buyer, '$.email') = ?`).all(email) as Array<{ id: string; state: string }>;
    const ids = orders.map(({ id }) => id);
    const goods = ids.map((id) => (db.prepare(`select count(*) as n from order_lines where order_id = ? and role = 'main'`).get(id) as { n: number }).n);
    return {
      taken: charges.filter(({ status, reference, amount, refunded }) => status === 'captured' && refunded < amount && ids.includes(reference)).length,
      paid: orders.filter(({ state }) => state === 'paid').length,
      goods: goods.reduce((sum, n) => sum + n, 0),
    };
  } finally {
    db.close();
  }
}

/** One buyer, who tries until they are told that it is paid, or have had enough. */
async function pays(email: string, random: () => number): Promise<void> {
  const buyer = new Buyer(ruta.site);
  let isOpen = false;
  for (let tries = 0; tries < TRIES; tries++) {
    await until(async () => {
      isOpen ||= await buyer.openCheckout(`/${funnel.slug}/checkout`).then(
        (html) => html.includes('name="cart"'),
        () => false,
      );
      return isOpen;
    }, 'the checkout is open');
    const card = random() < 0.65 ? CARD.good : random() < 0.6 ? CARD.noFunds : CARD.late;
    const answer = await buyer.pay(funnel.checkout, direct(), card, { email }).catch(() => null);
    const words = JSON.stringify(answer?.body ?? null);
    // Nobody is told that nothing was charged unless that is certain.
    if (/nothing was charged/i.test(words)) expect((await booksOf(email)).taken, `${email} was told: ${words}`).toBe(0);
    if (answer?.body.redirect?.includes('thank-you')) {
      expect(await booksOf(email), `${email} was thanked`).toMatchObject({ taken: 1, paid: 1 });
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, random() * 400));
  }
}

describe('a payment whose wire loses, doubles, cuts and garbles, while the server ends at any moment', () => {
  const everybody: string[] = [];

  it.each([1, 2, 3, 4, 5, 6, 7, 8, 9, 10])(
    'never takes money twice, nor says what is not so (seed %i)',
    async (seed) => {
      const random = numbers(seed);
      let ends = 0;
      wire.fate = (_method, address): Fate => {
        // Questions go through more often than charges do, so that something is decided meanwhile.
        if (random() < (address.includes('?') ? 0.5 : 0.25)) return 'through';
        const fate = FATES[Math.floor(random() * FATES.length)] ?? 'through';
        if (!fate.startsWith('ended')) return fate;
        return ++ends > ENDS ? 'lost' : fate;
      };
      const buyers = Array.from({ length: BUYERS }, (_, index) => `seed${seed}-${index}@moonmail.test`);
      everybody.push(...buyers);
      await Promise.all([
        ...buyers.map((email) => pays(email, random)),
        // And once in between, wherever everybody is just then.
        new Promise((resolve) => setTimeout(resolve, 200 + random() * 1200)).then(endAndStart),
      ]);
      for (const email of buyers) expect((await booksOf(email)).taken, email).toBeLessThanOrEqual(1);
      wire.fate = () => 'through';
    },
    60_000,
  );

  it('and in the end each charge has its order, and each order its charge', async () => {
    await endAndStart();
    const wrong = async () => {
      const books = await Promise.all(everybody.map(async (email) => ({ email, ...(await booksOf(email)) })));
      return books.filter(({ taken, paid, goods }) => taken !== paid || goods !== paid || paid > 1);
    };
    await until(async () => (await wrong()).length === 0, 'the books agree').catch(() => {});
    expect(await wrong()).toEqual([]);
    const paid = (await Promise.all(everybody.map(booksOf))).filter((books) => books.paid === 1);
    expect(paid.length).toBeGreaterThan(everybody.length / 3);
    // Every fate has been met with.
    expect([...wire.seen.keys()].toSorted()).toEqual([...FATES].toSorted());
  }, 60_000);
});
