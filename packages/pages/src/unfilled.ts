import { type BoundValue, type PageElement, type Words, wordPlaces, wordsAt } from '@ruta/core/elements';
import { boundText } from './boundValue';
import type { PageContext } from './context';
import { pictureOf } from './elements/PictureView';

/** Live values that nothing is known of here and that have nothing to stand in for them. */
const emptyIn = (words: Words, context: PageContext): BoundValue[] =>
  words.flatMap((node) => (node.type === 'bound' && !boundText(node.value, context) && !node.fallback ? [node.value] : []));

/** Whether a page has nothing to show of a text, since its live values are empty, or of a picture that is not there: it takes no room. */
export function isUnfilled(element: PageElement, context: PageContext): boolean {
  if (element.type === 'picture') return element.source?.kind !== 'drawing' && pictureOf(element.source, context) === null;
  if (element.type !== 'text' && element.type !== 'headline') return false;
  const { words } = element;
  const empty = emptyIn(words, context).length;
  return empty > 0 && words.every((node) => node.type !== 'text') && words.filter((node) => node.type === 'bound').length === empty;
}

/** The live values of an element that are empty here. */
export const emptyValues = (element: PageElement, context: PageContext): BoundValue[] => [
  ...new Set(wordPlaces(element).flatMap((path) => emptyIn(wordsAt(element, path), context))),
];
