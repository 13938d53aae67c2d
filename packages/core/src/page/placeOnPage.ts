import { elementRecordOf } from '../elements';
import type { PageDocument } from './page';

/**
 * Where something stands on a page, in words for whoever has to find it there.
 * @param path as a refusal names it, such as `page.sections.1.columns.0.elements.2.words`
 */
export function placeOnPage(page: PageDocument, path: string): string {
  const [, section, column, element] = /(?:^|\.)sections\.(\d+)(?:\.columns\.(\d+)(?:\.elements\.(\d+))?)?/.exec(path) ?? [];
  if (section === undefined) return 'settings of the page';
  const found = page.sections[Number(section)]?.columns[Number(column)]?.elements[Number(element)];
  const name = found ? `, ${elementRecordOf(found.type).name}` : '';
  return `section ${Number(section) + 1}${name}`;
}
