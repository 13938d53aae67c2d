import { equal } from '../json';
import type { Column, PageDocument, Section } from './page';

/** Both changed the same thing to something else. */
class Clash extends Error {}

/** One value of three: whichever side changed it. @throws Clash if both did, differently */
function pick<T>(base: T, mine: T, theirs: T): T {
  if (equal(mine, theirs) || equal(theirs, base)) return mine;
  if (equal(mine, base)) return theirs;
  throw new Clash();
}

/** Field by field; what a side has left out is a change too. */
function fields<T extends object>(base: T, mine: T, theirs: T, but: readonly string[] = []): T {
  const keys = new Set([...Object.keys(base), ...Object.keys(mine), ...Object.keys(theirs)]);
  const merged: Record<string, unknown> = {};
  for (const key of keys) {
    if (but.includes(key)) continue;
    const value = pick(base[key as keyof T], mine[key as keyof T], theirs[key as keyof T]);
    if (value !== undefined) merged[key] = value;
  }
  return merged as T;
}

/**
 * Ids in order: what either side added stands after what it was put after, what either took away is gone.
 * @throws Clash if both put what was there in another order
 */
function order(base: readonly string[], mine: readonly string[], theirs: readonly string[]): string[] {
  if (equal(mine, base)) return [...theirs];
  if (equal(theirs, base) || equal(mine, theirs)) return [...mine];
  const kept = new Set(base.filter((id) => mine.includes(id) && theirs.includes(id)));
  const common = (list: readonly string[]) => list.filter((id) => kept.has(id));
  const isMoved = !equal(common(mine), common(base));
  if (isMoved && !equal(common(theirs), common(base))) throw new Clash();
  // The side that moved something leads; the other one's additions and removals are put into it.
  const [lead, other] = isMoved ? [mine, theirs] : [theirs, mine];
  const merged = lead.filter((id) => other.includes(id) || !base.includes(id));
  other.forEach((id, index) => {
    if (base.includes(id) || merged.includes(id)) return;
    const before = other.slice(0, index).findLast((each) => merged.includes(each));
    merged.splice(before === undefined ? 0 : merged.indexOf(before) + 1, 0, id);
  });
  return merged;
}

const byId = <T extends { id: string }>(list: readonly T[]) => new Map(list.map((each) => [each.id, each]));
const ids = (list: ReadonlyArray<{ id: string }>) => list.map(({ id }) => id);

type Sides<T> = ReadonlyArray<Map<string, T>>;

/** A part of a page by its id: of both sides, or of the one that added it; null where one of them took it away. */
function part<T extends { id: string }>(id: string, [base, mine, theirs]: Sides<T>, merge: (base: T, mine: T, theirs: T) => T): T | null {
  const [was, own, other] = [base?.get(id), mine?.get(id), theirs?.get(id)];
  if (!was) return own ?? other ?? null;
  return own && other ? merge(was, own, other) : null;
}

/** @throws Clash if one side took away what the other one changed */
function refuseLost<T>([base, mine, theirs]: Sides<T>, contentOf: (part: T) => unknown): void {
  for (const [id, was] of base ?? []) {
    const [own, other] = [mine?.get(id), theirs?.get(id)];
    const left = own && !other ? own : other && !own ? other : undefined;
    if (left !== undefined && !equal(contentOf(left), contentOf(was))) throw new Clash();
  }
}

/**
 * Puts two edits of one page together, where they touched different things.
 * @param base the page as it was when both began
 * @returns the page with both; null where both changed the same thing, so that a person has to choose
 */
export function mergePages(base: PageDocument, mine: PageDocument, theirs: PageDocument): PageDocument | null {
  const pages = [base, mine, theirs] as const;
  const columns = pages.map((page) => byId(page.sections.flatMap((section) => section.columns)));
  const elements = pages.map((page) => byId(page.sections.flatMap((section) => section.columns.flatMap((column) => column.elements))));
  const sections = pages.map((page) => byId(page.sections));
  const mergedColumn = (was: Column, own: Column, other: Column): Column => ({
    ...fields(was, own, other, ['elements']),
    elements: order(ids(was.elements), ids(own.elements), ids(other.elements)).flatMap((id) => part(id, elements, (a, b, c) => fields(a, b, c)) ?? []),
  });
  // A column or section that one side added is as that side has it, with what the other side did to elements that were moved into it.
  const brought = (column: Column): Column => ({
    ...column,
    elements: column.elements.flatMap((element) => part(element.id, elements, (a, b, c) => fields(a, b, c)) ?? []),
  });
  const mergedSection = (was: Section, own: Section, other: Section): Section => ({
    ...fields(was, own, other, ['columns']),
    columns: order(ids(was.columns), ids(own.columns), ids(other.columns)).flatMap((id) => {
      const column = part(id, columns, mergedColumn);
      return column ? [columns[0]?.has(id) ? column : brought(column)] : [];
    }),
  });
  try {
    refuseLost(elements, (element) => element);
    refuseLost(columns, ({ elements: inside, ...column }) => [column, ids(inside)]);
    refuseLost(sections, ({ columns: inside, ...section }) => [section, ids(inside)]);
    const merged: PageDocument = {
      ...fields(base, mine, theirs, ['sections']),
      sections: order(ids(base.sections), ids(mine.sections), ids(theirs.sections)).flatMap((id) => {
        const section = part(id, sections, mergedSection);
        return section ? [sections[0]?.has(id) ? section : { ...section, columns: section.columns.map(brought) }] : [];
      }),
    };
    const placed = merged.sections.flatMap((section) => section.columns.flatMap((column) => ids(column.elements)));
    // Moved to two places, or into a column that is gone.
    const wanted = new Set(
      [...(elements[1]?.keys() ?? []), ...(elements[2]?.keys() ?? [])].filter((id) => !elements[0]?.has(id) || (elements[1]?.has(id) && elements[2]?.has(id))),
    );
    if (new Set(placed).size !== placed.length || [...wanted].some((id) => !placed.includes(id))) return null;
    return merged.sections.every((section) => section.columns.length > 0) ? merged : null;
  } catch (error) {
    if (error instanceof Clash) return null;
    throw error;
  }
}
