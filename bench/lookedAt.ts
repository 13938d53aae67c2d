import { cpSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import argon2 from 'argon2';
import { newId } from '../apps/server/src/base/ids';
import { users } from '../apps/server/src/team/tables';
import { Buyer, CARD, OWNER, Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import { largeShop } from './largeShop';
import type { Measurement } from './measure';

const ROUNDS = 150;
const PERIOD = 'from=2026-05-01&to=2026-05-30';

const percentile = (all: readonly number[], share: number): number =>
  all.toSorted((a, b) => a - b)[Math.min(all.length - 1, Math.floor(all.length * share))] ?? 0;

/** Every screen of a shop with 200,000 orders, again and again, while somebody buys: the slow ones of their requests, against buying alone. */
export async function lookedAtBench(): Promise<Measurement> {
  const ruta = await largeInstallation();
  try {
    const seller = new Seller(ruta.studio);
    const session = await seller.json('/api/session', { email: OWNER.email, password: OWNER.password });
    seller.trust(((await session.json()) as { csrfToken: string }).csrfToken);
    const funnel = await seller.sellingFunnel();
    const buy = async (rounds: number) => {
      const took: number[] = [];
      const timed = async (ask: () => Promise<unknown>) => {
        const began = performance.now();
        await ask();
        took.push(performance.now() - began);
      };
      for (let round = 0; round < rounds; round++) {
        const buyer = new Buyer(ruta.site);
        await timed(() => buyer.openCheckout(`/${funnel.slug}/checkout`));
        await timed(() => buyer.json(`/pay/${funnel.checkout}/quote`, buyer.order()));
        await timed(async () => {
          const { status } = await buyer.pay(funnel.checkout, ruta.standinsUrl, CARD.good, {
            email: `buyer${round}-${newId({ now: Date.now }, 'cart')}@moonmail.test`,
          });
          if (status !== 200) throw new Error(`Paying was answered with ${status}.`);
        });
      }
      return took;
    };
    await buy(10);
    const alone = percentile(await buy(ROUNDS), 0.99);
    const [large] = (await seller.rows('/funnels?search=Large')) as Array<{ id: string }>;
    const screens = [
      ...['/today', '/funnels', '/orders', '/orders/count', '/contacts', '/contacts/count', '/experiments'],
      ...[`/funnels/${large?.id}/figures?days=365`, `/funnels/${large?.id}/forecast-basis?${PERIOD}`],
      ...['day', 'product', 'campaign', 'country', 'cohort'].map((by) => `/reports?by=${by}&${PERIOD}`),
    ];
    let isBuying = true;
    const looking = (async () => {
      for (let look = 0; isBuying; look++) await seller.read(screens[look % screens.length] ?? '/today');
    })();
    const looked = percentile(await buy(ROUNDS), 0.99);
    isBuying = false;
    await looking;
    return { name: 'checkout.looked-at', value: Math.round(looked), unit: 'ms (p99)', baseline: Math.round(alone), ratio: looked / alone };
  } finally {
    await ruta.stop();
  }
}

/** The large shop behind a server of its own, with its owner. */
async function largeInstallation(): Promise<Installation> {
  const shop = largeShop();
  shop.db
    .insert(users)
    .values({
      id: newId(shop.clock, 'user'),
      email: OWNER.email,
      name: OWNER.name,
      passwordHash: await argon2.hash(OWNER.password),
      role: 'owner',
      createdAt: 1,
    })
    .run();
  const data = mkdtempSync(path.join(tmpdir(), 'ruta-large-'));
  // With what stands in the log beside the database.
  cpSync(shop.config.dataDir, data, { recursive: true });
  shop.end();
  return Installation.start({ data });
}
