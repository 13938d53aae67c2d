import { allElements } from '../page';
import type { Check } from './check';

/** Pictures that say something say it in words too. A drawing that ships with Ruta and has none is an ornament. */
export const textAlternatives: Check = {
  check: 'text-alternatives',
  severity: 'warning',
  find: ({ page }) =>
    allElements(page).flatMap((element) =>
      element.type === 'picture' && element.source && element.source.kind !== 'drawing' && !element.alt
        ? ['A picture has no text alternative for people who cannot see it.']
        : [],
    ),
};
