import { type Condition, evaluate } from '../conditions';
import type { Show } from '../elements';
import type { Facts } from '../facts';
import { allElements, type PageDocument } from './page';

type Part = { id: string; show?: Show | undefined };

/** Every part of a page that is not shown to everybody. */
function conditionalParts(page: PageDocument): Part[] {
  return [...page.sections, ...allElements(page)].filter((part: Part) => part.show !== undefined);
}

/** Whether what a page shows depends on what is known of its visitor. */
export const isConditional = (page: PageDocument): boolean => conditionalParts(page).length > 0;

/** Every condition that parts of a page ask. */
export function conditionsOn(page: PageDocument): Condition[] {
  return conditionalParts(page).flatMap(({ show }) => (show?.kind === 'when' ? [show.condition] : []));
}

/** A page whose parts ask other conditions than they did. */
export function mapShown(page: PageDocument, change: (condition: Condition) => Condition): PageDocument {
  const changed = <Shown extends Part>(part: Shown): Shown =>
    part.show?.kind === 'when' ? { ...part, show: { ...part.show, condition: change(part.show.condition) } } : part;
  return {
    ...page,
    sections: page.sections.map((section) => ({
      ...changed(section),
      columns: section.columns.map((column) => ({ ...column, elements: column.elements.map(changed) })),
    })),
  };
}

/** Which parts are shown: by their own condition, or where another one's does not hold. What that other one was is gone: shown. */
function shownParts(page: PageDocument, facts: Facts): (part: Part) => boolean {
  const holds = new Map<string, boolean>();
  for (const { id, show } of conditionalParts(page)) if (show?.kind === 'when') holds.set(id, evaluate(show.condition, facts));
  return ({ id, show }) => {
    if (show === undefined) return true;
    return show.kind === 'when' ? (holds.get(id) ?? false) : !(holds.get(show.of) ?? false);
  };
}

/**
 * A page as one visitor sees it: what is not for them is taken out, so that nothing of it is sent. Pages without
 * conditions stay as they are.
 */
export function shownPage(page: PageDocument, facts: Facts): PageDocument {
  if (!isConditional(page)) return page;
  const isShown = shownParts(page, facts);
  return {
    ...page,
    sections: page.sections
      .filter(isShown)
      .map((section) => ({ ...section, columns: section.columns.map((column) => ({ ...column, elements: column.elements.filter(isShown) })) })),
  };
}

/** Tells the versions of a page apart: visitors with the same key see the same page. */
export function versionKey(page: PageDocument, facts: Facts): string {
  const isShown = shownParts(page, facts);
  return conditionalParts(page)
    .map((part) => (isShown(part) ? '1' : '0'))
    .join('');
}
