import { stopsInOrder } from '../funnel';
import { mainOffer } from '../offers';
import { archivedProduct } from './archivedProduct';
import { buttonTargets } from './buttonTargets';
import type { Check, CheckedFunnel, Problem } from './check';
import { countdownToNothing, deadlineUntold } from './countdowns';
import { domainWaits } from './domainWaits';
import { oneHeadline } from './headlines';
import { legalPagesMissing, legalPagesToWrite, termsUnwritten } from './legalPages';
import { conditionOnNothing, justBought, loop, manyOffers, noWayOn, unreachable } from './mapHolds';
import { missingForm } from './missingForm';
import { noPayment } from './noPayment';
import { noShipping } from './noShipping';
import { nothingDelivered } from './nothingDelivered';
import { nothingSold } from './nothingSold';
import { brokenOffers, dearBumps, dearerOffers, goneOffers, tickedBumps } from './offersStand';
import { otherNames, twoProducts } from './otherProducts';
import { ownPriceOfMany, ownPricesDiffer } from './ownPrices';
import { placeholders, placeholdersToWrite } from './placeholders';
import { soldAlone } from './soldAlone';
import { switchedOffProduct } from './switchedOffProduct';
import { textAlternatives } from './textAlternatives';

/** Every check, in the order in which its problems are told. */
export const CHECKS = [
  placeholders,
  placeholdersToWrite,
  nothingSold,
  twoProducts,
  otherNames,
  archivedProduct,
  missingForm,
  noPayment,
  noShipping,
  nothingDelivered,
  switchedOffProduct,
  soldAlone,
  goneOffers,
  brokenOffers,
  dearerOffers,
  dearBumps,
  ownPriceOfMany,
  ownPricesDiffer,
  tickedBumps,
  deadlineUntold,
  countdownToNothing,
  justBought,
  manyOffers,
  loop,
  noWayOn,
  unreachable,
  conditionOnNothing,
  oneHeadline,
  textAlternatives,
  buttonTargets,
  domainWaits,
  legalPagesMissing,
  legalPagesToWrite,
  termsUnwritten,
] as const satisfies readonly Check[];

/** What is wrong with a funnel, stop by stop in their order. */
export function checkFunnel(funnel: CheckedFunnel): Problem[] {
  return stopsInOrder(funnel.graph).flatMap((step) => {
    const page = funnel.pages[step.id];
    if (!page) return [];
    const product = funnel.products[mainOffer(step)?.productId ?? ''];
    return CHECKS.flatMap(({ check, severity, find }) =>
      find({ step, page, product, funnel }).map(
        (found): Problem => ({
          ...(typeof found === 'string' ? { message: found } : found),
          check,
          stepId: step.id,
          severity,
        }),
      ),
    );
  });
}
