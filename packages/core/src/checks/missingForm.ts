import { allElements } from '../page';
import type { Check } from './check';

/** What a step of a kind cannot do without. */
const NEEDED = {
  checkout: { needed: 'order-form', message: 'This checkout has no order form, so nobody can pay.' },
  'opt-in': { needed: 'form', message: 'This page has no form, so nobody can leave an address.' },
} as const;

export const missingForm: Check = {
  check: 'missing-form',
  severity: 'blocking',
  find: ({ step, page }) => {
    const rule = step.kind === 'checkout' || step.kind === 'opt-in' ? NEEDED[step.kind] : undefined;
    return rule && !allElements(page).some((element) => element.type === rule.needed) ? [rule.message] : [];
  },
};
