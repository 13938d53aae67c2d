import { UpcomingSchema, upcomingPayments } from '@ruta/core/plans';
import type { Api } from '../base/api';
import type { Services } from '../base/services';
import { loadOrder } from '../orders/store';
import { loadShop } from '../shop/store';
import { plansOf } from './store';

/** Of plans without an end the next payments are shown; of others all, in bounds that no true plan reaches. */
const NEXT = 3;
const MOST = 600;

export function planRoutes(api: Api, { db, clock }: Services): void {
  api.on({ method: 'get', path: '/orders/:id/upcoming', summary: 'What the plans of an order go on owing', response: UpcomingSchema }, ({ params }) => {
    const order = loadOrder(db, params.id ?? '');
    const active = plansOf(db, order.id).filter((plan) => plan.state === 'active');
    const endless = active.some((plan) => plan.left === null);
    const most = endless ? NEXT : MOST;
    // What was bought with one payment is quoted together; what was added later counts its dates from its own moment.
    const moments = [...new Set(active.map(({ boughtAt }) => boughtAt))];
    const payments = moments.flatMap((boughtAt) => {
      const terms = active.filter((plan) => plan.boughtAt === boughtAt).map((plan) => plan.terms);
      return upcomingPayments(loadShop(db), terms, boughtAt, clock.now(), most);
    });
    return { currency: order.currency, payments: payments.sort((a, b) => a.due - b.due).slice(0, most), endless };
  });
}
