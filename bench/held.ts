import path from 'node:path';
import Database from 'better-sqlite3';
import { Buyer, Seller } from '../apps/server/test/support/clients';
import { Installation } from '../apps/server/test/support/installation';
import type { Measurement } from './measure';

const HELD_MS = 3000;

/** Pages while another program holds the database and a seller and a buyer wait for it: the slowest, against the slowest without. */
export async function heldBench(): Promise<Measurement> {
  const ruta = await Installation.start();
  try {
    const seller = await Seller.ofNewShop(ruta.studio);
    const funnel = await seller.sellingFunnel();
    const slowest = async () => {
      let worst = 0;
      for (const until = performance.now() + HELD_MS; performance.now() < until; ) {
        const began = performance.now();
        await new Buyer(ruta.site).get(`/${funnel.slug}`);
        worst = Math.max(worst, performance.now() - began);
      }
      return worst;
    };
    await slowest();
    const baseline = await slowest();
    const other = new Database(path.join(ruta.data, 'shop.sqlite'));
    other.exec('BEGIN IMMEDIATE');
    const waiting = [seller.changeShop({ name: 'Held' }), new Buyer(ruta.site).openCheckout(`/${funnel.slug}/checkout`)];
    const value = await slowest();
    other.exec('COMMIT');
    other.close();
    await Promise.all(waiting);
    return { name: 'pages.held', value: Math.round(value), unit: 'ms (slowest)', baseline: Math.round(baseline), ratio: value / baseline };
  } finally {
    await ruta.stop();
  }
}
