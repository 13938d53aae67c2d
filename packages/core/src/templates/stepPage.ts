import type { StepKind } from '../funnel';
import type { NewId } from '../ids';
import type { PageDocument } from '../page';
import { checkoutPage } from './checkoutPage';
import { offerPage } from './offerPage';
import { optInPage } from './optInPage';
import type { NamedProduct } from './pageOf';
import { closedPage, confirmationPage, registrationPage, replayPage, waitingListPage } from './plainPages';
import { salesPage } from './salesPage';
import { thankYouPage } from './thankYouPage';

/** The page that a new step of each kind begins with; the compiler names a kind that is missing. */
const PAGES: { [Kind in StepKind]: (product: NamedProduct, newId: NewId) => PageDocument } = {
  'opt-in': optInPage,
  registration: registrationPage,
  confirmation: confirmationPage,
  sales: salesPage,
  replay: replayPage,
  'waiting-list': waitingListPage,
  closed: closedPage,
  checkout: checkoutPage,
  offer: offerPage,
  'thank-you': thankYouPage,
};

/** The page of a new step, about a product, or about nothing but its own name. */
export function stepPage(kind: StepKind, product: NamedProduct | undefined, name: string, newId: NewId): PageDocument {
  return PAGES[kind](product ?? { name, pictureIds: [] }, newId);
}
