import { nextStep } from '@ruta/core/funnel';
import { outsideAddress } from '../delivery/received';
import { gatherFacts } from '../facts/gather';
import { type LiveServices, stepPath } from '../funnel/live';
import { orderAddress } from '../orders/address';
import type { Tracked } from '../tracking/recorder';
import type { PayOutcome } from './pay';

/**
 * Where a buyer goes once the outcome of a payment is known. Where that cannot be found out just now, to the page that
 * looks again: something may have been paid, so that an error would say too much.
 */
export function whereTo(services: Tracked & LiveServices, outcome: PayOutcome): string {
  try {
    return placeOf(services, outcome);
  } catch (error) {
    services.log.error({ err: error, order: outcome.order.id }, 'the way on from a payment could not be found');
    return `/pay/return/${outcome.order.token}`;
  }
}

function placeOf(services: Tracked & LiveServices, outcome: PayOutcome): string {
  const { order } = outcome;
  const live = services.live.step(order.stepId);
  switch (outcome.state) {
    case 'confirm':
      return outcome.url;
    case 'waiting':
      return `/pay/return/${order.token}`;
    case 'declined':
      // Nothing was bought, so that nothing moves them on.
      return `${live ? stepPath(live) : '/'}?declined=${encodeURIComponent(outcome.reason)}`;
    case 'paid': {
      // A product may send its buyers elsewhere, once every offer of the funnel has been made.
      const afterwards = outsideAddress(services, order);
      if (!live) return afterwards ?? orderAddress(services, order.token);
      const visitor = order.visitorId ? services.recorder.visitor(order.visitorId) : null;
      const next = nextStep(live.publication.snapshot.graph, order.stepId, { outcome: 'paid', afterwards }, gatherFacts(services, { order, visitor }));
      if (next.kind === 'address') return next.url;
      return next.kind === 'step' ? `${stepPath({ ...live, step: next.step })}?order=${order.token}` : orderAddress(services, order.token);
    }
    default:
      return outcome satisfies never;
  }
}
