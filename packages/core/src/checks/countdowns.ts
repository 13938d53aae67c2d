import { stepKindOf } from '../funnel';
import { mainOffers } from '../offers';
import { offerCountdown } from '../page';
import type { Check, CheckedStep } from './check';

const offersUntil = ({ step }: CheckedStep): boolean => mainOffers(step).some(({ deadline }) => deadline !== null);
const isAddition = ({ step }: CheckedStep): boolean => stepKindOf(step.kind).sells === 'addition';

/** A deadline that the server keeps to and the page says nothing of. */
export const deadlineUntold: Check = {
  check: 'deadline-untold',
  severity: 'warning',
  find: (at) =>
    isAddition(at) && offersUntil(at) && !offerCountdown(at.page)
      ? ['The offer here has a deadline that its page doesn’t show. Add a countdown in the Offer view, or on the page.']
      : [],
};

/** A countdown to a deadline that nobody has set: visitors never see it. */
export const countdownToNothing: Check = {
  check: 'countdown-to-nothing',
  severity: 'warning',
  find: (at) => {
    const countdown = isAddition(at) && !offersUntil(at) ? offerCountdown(at.page) : undefined;
    return countdown
      ? [
          {
            message: 'The countdown here runs to the end of the offer, and the offer has no deadline, so nobody sees it. Set one in the Offer view.',
            passages: [{ elementId: countdown.id, text: 'Countdown' }],
          },
        ]
      : [];
  },
};
