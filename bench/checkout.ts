import type autocannon from 'autocannon';
import { Seller } from '../apps/server/test/support/clients';
import { inInstantShop } from './instantShop';
import { addressOf, inPairs, type Measurement, requestsPerSecond } from './measure';

const PAIRS = 5;
const PRICE = 13_800;

/** Orders paid through the site while the processor answers at once, against Express writing one row durably. */
export function checkoutBench(bareUrl: string): Promise<Measurement> {
  return inInstantShop(async (ruta) => {
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
                  'x-forwarded-for': addressOf(count),
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
  });
}
