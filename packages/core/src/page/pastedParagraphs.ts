import { type ElementType, isElementOf, newElement } from '../elements';
import type { Operation } from './operation';
import { findElement, type PageDocument } from './page';

/** The paragraphs of pasted text, without empty ones; each line is one, as word processors copy them. */
export const paragraphsOf = (text: string): string[] =>
  text
    .split(/\r?\n|\r|\u2029/)
    .map((line) => line.trim())
    .filter((line) => line !== '');

/**
 * What becomes of paragraphs that are pasted into a headline beside the first, which stays in it: a text for each below it.
 * @returns null where words may hold several paragraphs, and there is nothing to do
 */
export function pastedBelow(page: PageDocument, elementId: string, rest: readonly string[], newId: Parameters<typeof newElement>[1]): Operation | null {
  const place = findElement(page, elementId);
  if (!place || rest.length === 0 || !isElementOf(place.element, 'headline')) return null;
  const type: ElementType = 'text';
  return {
    kind: 'several',
    operations: rest.map((text, index) => ({
      kind: 'insertElement',
      columnId: place.column.id,
      index: place.index + 1 + index,
      element: { ...newElement(type, newId), words: [{ type: 'text', text }] } as ReturnType<typeof newElement>,
    })),
  };
}
