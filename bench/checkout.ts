import { type ChildProcess, spawn } from 'node:child_process';
import path from 'node:path';
import type autocannon from 'autocannon';
import { Seller } from '../apps/server/test/support/clients';
import { freePort, Installation } from '../apps/server/test/support/installation';
import { inPairs, type Measurement, requestsPerSecond } from './measure';

const PAIRS = 5;
const PRICE = 13_800;

/** Orders paid through the site while the processor answers at once, against Express writing one row durably. */
export async function checkoutBench(bareUrl: string): Promise<Measurement> {
  const port = await freePort();
  const processor: ChildProcess = spawn(process.execPath, ['--import', 'tsx', path.join(import.meta.dirname, 'processor.ts')], {
    env: { ...process.env, PROCESSOR_PORT: String(port) },
    stdio: 'inherit',
  });
  // Mails go out by the clock, after the buyer has been answered; here the clock stands.
  const ruta = await Installation.start({ standinsAt: port, settings: { NODE_ENV: 'production', RUTA_JOBS_EVERY_MS: '600000' } });
  try {
    const seller = await Seller.ofNewShop(ruta.studio);
    const funnel = await seller.sellingFunnel({ price: PRICE });
    let count = 0;
    const orders = (url: string, address: string) =>
      requestsPerSecond({
        url,
        method: 'POST',
        requests: [
          {
            setupRequest: (request: autocannon.Request) => {
              count++;
              const number = count.toString(36).padStart(10, '0');
              const form = {
                cart: `crt_bench${number}`,
                shown: String(PRICE),
                token: 'tok_bench',
                firstName: 'Ilse',
                email: `b${number}@moonmail.test`,
                country: 'NL',
              };
              return {
                ...request,
                method: 'POST' as const,
                path: address,
                headers: {
                  'content-type': 'application/json',
                  accept: 'application/json',
                  cookie: `ruta_visitor=vis_bench${number}`,
                  'user-agent': 'Mozilla/5.0 Chrome/131.0',
                },
                body: JSON.stringify(form),
              };
            },
          },
        ],
      });
    return await inPairs(
      'checkout',
      'orders/s',
      PAIRS,
      () => orders(ruta.site, `/pay/${funnel.checkout}`),
      () => orders(bareUrl, '/row'),
    );
  } finally {
    processor.kill();
    await ruta.stop();
  }
}
