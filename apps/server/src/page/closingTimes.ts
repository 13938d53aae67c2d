import type { Step } from '@ruta/core/funnel';
import { mainOffer, type Offer } from '@ruta/core/offers';
import { findProduct } from '../catalog/store';
import type { LiveServices, LiveStep } from '../funnel/live';

/** When an offer is gone for everybody; undefined if it goes on in some form. */
const endOf = ({ deadline }: Offer) => (deadline?.until.kind === 'date' && deadline.afterwards === 'gone' ? deadline.until.at : undefined);

/** When what a live sales page or checkout is about closes (Unix time in milliseconds); undefined if it does not. Read once for each stop, as each arm of a test has it, until something changes. */
export function closingTimes({ db, changes }: Pick<LiveServices, 'db' | 'changes'>): (live: Pick<LiveStep, 'step'>) => number | undefined {
  let known = new WeakMap<Step, number[]>();
  changes.onChange(() => {
    known = new WeakMap();
  });

  function momentsOf(step: Step): number[] {
    const offer = step.kind === 'sales' || step.kind === 'checkout' ? mainOffer(step) : undefined;
    return offer ? [findProduct(db, offer.productId)?.closesAt, endOf(offer)].filter((at): at is number => typeof at === 'number') : [];
  }
  return ({ step }) => {
    let moments = known.get(step);
    if (!moments) {
      moments = momentsOf(step);
      known.set(step, moments);
    }
    return moments.length > 0 ? Math.min(...moments) : undefined;
  };
}
