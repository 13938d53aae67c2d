import { stepKindOf } from '../funnel';
import { allElements } from '../page';
import type { Check } from './check';

/** A page without what its kind cannot do without. */
export const missingForm: Check = {
  check: 'missing-form',
  severity: 'blocking',
  find: ({ step, page }) => {
    const { needs } = stepKindOf(step.kind);
    return needs && !allElements(page).some((element) => element.type === needs.element) ? [needs.missing] : [];
  },
};
