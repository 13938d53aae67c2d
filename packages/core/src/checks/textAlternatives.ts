import { allElements } from '../page';
import type { Check } from './check';

export const textAlternatives: Check = {
  check: 'text-alternatives',
  severity: 'warning',
  find: ({ page }) =>
    allElements(page).flatMap((element) =>
      element.type === 'picture' && element.source && !element.alt ? ['A picture has no text alternative for people who cannot see it.'] : [],
    ),
};
