import { equal } from '../json';
import type { PageDocument, Section } from './page';

/** The own sections that a page shows linked, as they stand on it. */
export const linkedOn = (page: PageDocument): Section[] => page.sections.filter(({ linkedTo }) => linkedTo !== undefined);

/** A linked section as it is kept: everything but where one page puts it. */
export function keptSection({ popUpId: _place, ...section }: Section): Section {
  return section;
}

/**
 * A page whose linked sections are as they were changed elsewhere; where each stands on it stays as it is.
 * @returns the page given, if nothing of it changes
 */
export function followSections(page: PageDocument, changed: readonly Section[]): PageDocument {
  const byLink = new Map(changed.map((section) => [section.linkedTo, section]));
  let isChanged = false;
  const sections = page.sections.map((section) => {
    const next = section.linkedTo === undefined ? undefined : byLink.get(section.linkedTo);
    if (!next || equal(keptSection(next), keptSection(section))) return section;
    isChanged = true;
    return { ...keptSection(next), ...(section.popUpId ? { popUpId: section.popUpId } : {}) };
  });
  return isChanged ? { ...page, sections } : page;
}
