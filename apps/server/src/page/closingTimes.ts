import { mainOffer, type Offer } from '@ruta/core/offers';
import { findProducts } from '../catalog/store';
import type { LiveServices, LiveStep } from '../funnel/live';

/** When an offer is gone for everybody; undefined if it goes on in some form. */
const endOf = ({ deadline }: Offer) => (deadline?.until.kind === 'date' && deadline.afterwards === 'gone' ? deadline.until.at : undefined);

/** When what a live sales page or checkout is about closes (Unix time in milliseconds); undefined if it does not. Read once until something changes. */
export function closingTimes({ db, live, changes }: Pick<LiveServices, 'db' | 'live' | 'changes'>): (step: LiveStep) => number | undefined {
  let known: Map<string, number> | null = null;
  changes.onChange(() => {
    known = null;
  });

  function read(): Map<string, number> {
    const about = live
      .all()
      .flatMap((publication) => publication.snapshot.graph.steps)
      .flatMap((step) => {
        const offer = step.kind === 'sales' || step.kind === 'checkout' ? mainOffer(step) : undefined;
        return offer ? [{ stepId: step.id, productId: offer.productId, ends: endOf(offer) }] : [];
      });
    const closing = new Map(findProducts(db, [...new Set(about.map(({ productId }) => productId))]).map((product) => [product.id, product.closesAt]));
    return new Map(
      about.flatMap(({ stepId, productId, ends }): Array<[string, number]> => {
        const moments = [closing.get(productId), ends].filter((at): at is number => typeof at === 'number');
        return moments.length > 0 ? [[stepId, Math.min(...moments)]] : [];
      }),
    );
  }
  return ({ step }) => {
    known ??= read();
    return known.get(step.id);
  };
}
