import { allElements } from '../page';
import type { Check } from './check';

export const oneHeadline: Check = {
  check: 'one-headline',
  severity: 'warning',
  find: ({ page }) =>
    allElements(page).filter((element) => element.type === 'headline' && element.level === 1).length === 1
      ? []
      : ['A page reads best with exactly one main headline.'],
};
