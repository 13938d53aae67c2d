import { BOUND_VALUES, type PageElement } from '@ruta/core/elements';
import { emptyValues, type PageContext } from '@ruta/pages';

/** Which live values of an element are empty here, for whoever edits it. */
export const unfilledWords = (element: PageElement, context: PageContext): string[] =>
  emptyValues(element, context).map((value) => `“${BOUND_VALUES[value]}” is empty, so the page shows nothing there.`);
