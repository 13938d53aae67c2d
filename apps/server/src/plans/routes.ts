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
    const terms = active.map((plan) => plan.terms);
    const endless = active.some((plan) => plan.left === null);
    return {
      currency: order.currency,
      payments: upcomingPayments(loadShop(db), terms, active[0]?.boughtAt ?? 0, clock.now(), endless ? NEXT : MOST),
      endless,
    };
  });
}
