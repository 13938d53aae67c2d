import { isFree } from '../catalog';
import { isElementOf, speaksOfTerms } from '../elements';
import { stepKindOf } from '../funnel';
import { allElements } from '../page';
import { countryName, type LegalLack, legalLacks, legalLinks } from '../shop';
import type { Check, CheckedFunnel } from './check';

const sells = ({ graph, products }: CheckedFunnel): boolean =>
  graph.steps.some((step) => stepKindOf(step.kind).sells && step.sells.some(({ productId }) => products[productId] && !isFree(products[productId])));

const said = ({ name, gaps }: LegalLack, country: string): string =>
  gaps.length > 0
    ? `“${name}” still has to say: ${gaps.join('; ')}. Write it under Settings, Legal pages.`
    : `${countryName(country)} asks shops for a page “${name}”, and this shop has none. Write it under Settings, Legal pages.`;

/** Told once, at the funnel's first page. */
const lacksOf = (funnel: CheckedFunnel, stepId: string): string[] =>
  stepId === funnel.graph.entryId ? legalLacks(funnel.shop.settings, sells(funnel)).map((lack) => said(lack, funnel.shop.settings.country)) : [];

/** What the law of the seller's country asks to be shown keeps a live shop's funnels from going live. */
export const legalPagesMissing: Check = {
  check: 'legal-pages',
  severity: 'blocking',
  find: ({ step, funnel }) => (funnel.shop.settings.mode === 'live' ? lacksOf(funnel, step.id) : []),
};

/** In test mode nobody else sees the pages: it is only worth knowing. */
export const legalPagesToWrite: Check = {
  check: 'legal-pages-to-write',
  severity: 'warning',
  find: ({ step, funnel }) => (funnel.shop.settings.mode === 'test' ? lacksOf(funnel, step.id) : []),
};

/** An order form that speaks of terms where there are none: buyers are not shown the sentence. */
export const termsUnwritten: Check = {
  check: 'terms-unwritten',
  severity: 'warning',
  find: ({ page, funnel }) =>
    !legalLinks(funnel.shop.settings).some(({ kind }) => kind === 'terms') &&
    allElements(page).some((element) => isElementOf(element, 'order-form') && speaksOfTerms(element.consent))
      ? [
          'The order form speaks of terms, but the shop has written none, so that buyers do not see this sentence. Write them under Settings, Legal pages, or change it.',
        ]
      : [],
};
