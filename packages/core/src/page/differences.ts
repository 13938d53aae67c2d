import { type ElementPath, elementRecordOf, type PageElement, plainText, wordPlaces, wordsAt } from '../elements';
import { equal } from '../json';
import { allElements, type PageDocument, type Section } from './page';

/** One thing that differs between two versions of a page, in words. */
export interface Difference {
  /** The section it is in; none for what concerns the whole page. */
  section: string | null;
  what: string;
}

const SETTINGS: Array<[keyof PageDocument, string]> = [
  ['title', 'Public title'],
  ['description', 'Description'],
  ['indexed', 'Whether search engines may list it'],
  ['shareImageId', 'Picture where its link is shared'],
  ['iconId', 'Icon'],
  ['code', 'Code of your own'],
  ['popUps', 'Pop-ups'],
];

const LETTERS = 60;
const quoted = (text: string) => `“${text.length > LETTERS ? `${text.slice(0, LETTERS - 1)}…` : text}”`;
const nameOf = (element: PageElement) => elementRecordOf(element.type).name;
const said = (element: PageElement, path: ElementPath) => plainText(wordsAt(element, path)).trim();

/** What is different in one element: its words by what they were and are, everything else by the name of the element. */
function inElement(before: PageElement, after: PageElement): string[] {
  const words = wordPlaces(after).flatMap((path) => {
    const [was, is] = [said(before, path), said(after, path)];
    return was === is ? [] : [was === '' ? `${nameOf(after)}: ${quoted(is)} was written` : `${nameOf(after)}: ${quoted(was)} became ${quoted(is)}`];
  });
  return words.length > 0 ? words : [`${nameOf(after)} was set otherwise`];
}

const firstWords = (element: PageElement) =>
  wordPlaces(element)
    .map((path) => said(element, path))
    .find(Boolean);
const called = (element: PageElement) => {
  const words = firstWords(element);
  return words ? `${nameOf(element)} ${quoted(words)}` : nameOf(element);
};

/** What would change for visitors, as a list that can be read: settings first, then section by section. */
export function differences(before: PageDocument, after: PageDocument): Difference[] {
  const found: Difference[] = SETTINGS.filter(([key]) => !equal(before[key], after[key])).map(([, name]) => ({ section: null, what: `${name} changed` }));
  const old = new Map(before.sections.map((section) => [section.id, section]));
  const oldElements = new Map(allElements(before).map((element) => [element.id, element]));
  const newElements = new Set(allElements(after).map(({ id }) => id));
  const home = (page: PageDocument) =>
    new Map(page.sections.flatMap((section) => section.columns.flatMap((column) => column.elements.map((element) => [element.id, section.id] as const))));
  const [oldHome, newHome] = [home(before), home(after)];
  for (const section of after.sections) {
    const was = old.get(section.id);
    if (!was) found.push({ section: section.name, what: 'The section is new' });
    else if (!equal(groundOf(was), groundOf(section))) found.push({ section: section.name, what: 'Ground, space or columns changed' });
    for (const element of section.columns.flatMap((column) => column.elements)) {
      const earlier = oldElements.get(element.id);
      if (!earlier) {
        if (was) found.push({ section: section.name, what: `${called(element)} is new` });
      } else {
        if (oldHome.get(element.id) !== newHome.get(element.id)) found.push({ section: section.name, what: `${called(element)} was moved here` });
        if (!equal(earlier, element)) found.push(...inElement(earlier, element).map((what) => ({ section: section.name, what })));
      }
    }
    if (!was) continue;
    const order = (each: Section) =>
      each.columns.flatMap((column) => column.elements.map(({ id }) => id)).filter((id) => newElements.has(id) && oldElements.has(id));
    const here = new Set(order(section));
    if (
      !equal(
        order(was).filter((id) => here.has(id)),
        order(section).filter((id) => order(was).includes(id)),
      )
    )
      found.push({ section: section.name, what: 'The order in it changed' });
    for (const element of was.columns.flatMap((column) => column.elements)) {
      if (!newElements.has(element.id)) found.push({ section: section.name, what: `${called(element)} was taken away` });
    }
  }
  const stay = new Set(after.sections.map(({ id }) => id));
  for (const section of before.sections) if (!stay.has(section.id)) found.push({ section: section.name, what: 'The section was taken away' });
  const kept = (page: PageDocument) => page.sections.map(({ id }) => id).filter((id) => old.has(id) && stay.has(id));
  if (!equal(kept(before), kept(after))) found.push({ section: null, what: 'Sections stand in another order' });
  return found;
}

/** What of a section visitors see beside its elements; its name and its link are for the team. */
const groundOf = ({ name: _name, linkedTo: _link, columns, ...section }: Section) => ({ ...section, columns: columns.map(shapeOf) });
const shapeOf = ({ elements: _elements, ...column }: Section['columns'][number]) => column;
