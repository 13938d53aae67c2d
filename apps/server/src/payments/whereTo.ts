import { buyerOf } from '../facts/who';
import { type LiveServices, stepPath } from '../funnel/live';
import { onward } from '../offers/onward';
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
    return waitingPlace(outcome);
  }
}

/** The page that asks after a payment by itself. */
const waitingPlace = ({ order, addition }: PayOutcome) => `/pay/return/${order.token}${addition ? `?payment=${addition.id}` : ''}`;

function placeOf(services: Tracked & LiveServices, outcome: PayOutcome): string {
  const { order, addition } = outcome;
  const stepId = addition?.stepId ?? order.stepId;
  const live = services.live.step(stepId, buyerOf(services, order));
  switch (outcome.state) {
    case 'confirm':
      return outcome.url;
    case 'waiting':
      return waitingPlace(outcome);
    case 'declined': {
      // Nothing was bought, so that nothing moves them on. What is paid already stays theirs.
      const reason = `declined=${encodeURIComponent(outcome.reason)}`;
      if (addition) return live ? `${stepPath(live)}?order=${order.token}&${reason}` : onward(services, order, stepId, 'declined');
      return `${live ? stepPath(live) : '/'}?${reason}`;
    }
    case 'paid':
      return onward(services, order, stepId, addition ? 'accepted' : 'paid');
    default:
      return outcome satisfies never;
  }
}
