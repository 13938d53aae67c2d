import type autocannon from 'autocannon';
import { Seller } from '../apps/server/test/support/clients';
import { OfferFunnel, offerOf, thing } from '../apps/server/test/support/offers';
import { inInstantShop } from './instantShop';
import { addressOf, inPairs, type Measurement, requestsPerSecond } from './measure';

const PAIRS = 5;
const PRICE = 13_800;
const BUMP = 2_400;
const UPSELL = 7_200;

/** What one buyer's second request takes from the first. */
interface Kept {
  number?: string;
  order?: string;
}

/**
 * Steps of an order with a bump and an upsell (the payment, then the yes) while the processor answers at once, against
 * Express writing one row durably for each.
 */
export function checkoutWithOffersBench(bareUrl: string): Promise<Measurement> {
  return inInstantShop(async (ruta) => {
    const seller = await Seller.ofNewShop(ruta.studio);
    const funnel = await OfferFunnel.draw(seller, { price: PRICE });
    const bump = offerOf((await thing(seller, 'Workbook', BUMP)).id, { place: 'bump' });
    const upsell = offerOf((await thing(seller, 'Sketching', UPSELL)).id);
    await funnel.bumps(bump);
    const checkout = funnel.step('checkout').id;
    const stop = await funnel.offerAfter(checkout, 'paid', 'Sketching', [upsell]);
    await funnel.publish();
    let count = 0;
    const common = (number: string) => ({
      cookie: `ruta_visitor=vis_bench${number}`,
      'user-agent': 'Mozilla/5.0 Chrome/131.0',
      'x-forwarded-for': addressOf(Number.parseInt(number, 36)),
    });
    const orders = (url: string, pay: string, accept: string) =>
      requestsPerSecond({
        url,
        method: 'POST',
        accepts: [303],
        requests: [
          {
            setupRequest: (request: autocannon.Request, context: Kept) => {
              const number = (count++).toString(36).padStart(10, '0');
              context.number = number;
              const form = { cart: `crt_bench${number}`, shown: String(PRICE + BUMP), token: 'tok_bench', firstName: 'Ilse', country: 'NL' };
              return {
                ...request,
                method: 'POST' as const,
                path: pay,
                headers: { ...common(number), 'content-type': 'application/json', accept: 'application/json' },
                body: JSON.stringify({ ...form, email: `o${number}@moonmail.test`, [`bump-${bump.id}`]: 'on' }),
              };
            },
            onResponse: (_status: number, body: string, context: Kept) => {
              context.order = /order=([\w-]+)/.exec(body)?.[1] ?? '';
            },
          },
          {
            setupRequest: (request: autocannon.Request, context: Kept) => {
              const form = { order: context.order ?? '', offer: upsell.id, shown: String(UPSELL), answer: 'yes' };
              // The baseline reads JSON; the yes is sent as browsers send a form.
              const isForm = accept !== pay;
              return {
                ...request,
                method: 'POST' as const,
                path: accept,
                headers: {
                  ...common(context.number ?? ''),
                  'content-type': isForm ? 'application/x-www-form-urlencoded' : 'application/json',
                  accept: 'text/html',
                },
                body: isForm ? new URLSearchParams(form).toString() : JSON.stringify(form),
              };
            },
          },
        ],
      });
    return await inPairs(
      'checkout.offers',
      'steps/s',
      PAIRS,
      () => orders(ruta.site, `/pay/${checkout}`, `/offer/${stop}`),
      () => orders(bareUrl, '/row', '/row'),
    );
  });
}
