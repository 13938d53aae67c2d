import { type ElementOf, isElementOf, newElement } from '../elements';
import type { NewId } from '../ids';
import type { Operation } from './operation';
import { allElements, findElement, type PageDocument } from './page';

/** The countdown of a page that runs to the end of what its step offers; undefined if it has none. */
export function offerCountdown(page: PageDocument): ElementOf<'countdown'> | undefined {
  for (const element of allElements(page)) if (isElementOf(element, 'countdown') && element.until === undefined) return element;
  return undefined;
}

/** Puts a countdown to the end of the offer above its yes and no, or at the end of the page's first column; null on a page without any place. */
export function addOfferCountdown(page: PageDocument, newId: NewId): Extract<Operation, { kind: 'insertElement' }> | null {
  const answer = allElements(page).find((element) => element.type === 'offers');
  const place = answer && findElement(page, answer.id);
  const column = place?.column ?? page.sections[0]?.columns[0];
  return column ? { kind: 'insertElement', columnId: column.id, index: place?.index ?? column.elements.length, element: newElement('countdown', newId) } : null;
}
