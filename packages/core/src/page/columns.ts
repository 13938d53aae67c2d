import type { NewId } from '../ids';
import type { Column, Section } from './page';

/** Twelfths that a row has, and the fewest that a column keeps. */
const WHOLE = 12;
const LEAST = 2;

export const newColumn = (newId: NewId, span: number): Column => ({ id: newId('column'), span, elements: [] });

/** Columns of equal width, as far as twelfths go: the first ones take what is left over. */
export function evenly(columns: readonly Column[]): Column[] {
  const share = Math.floor(WHOLE / columns.length);
  const over = WHOLE - share * columns.length;
  return columns.map((column, index) => ({ ...column, span: share + (index < over ? 1 : 0) }));
}

/**
 * Moves the line between two neighbouring columns.
 * @param by twelfths by which the left one grows; kept within what both can be
 */
export function moveEdge(columns: readonly Column[], left: number, by: number): Column[] {
  const [a, b] = [columns[left], columns[left + 1]];
  if (!a || !b) return [...columns];
  const step = Math.max(LEAST - a.span, Math.min(b.span - LEAST, Math.round(by)));
  return columns.with(left, { ...a, span: a.span + step }).with(left + 1, { ...b, span: b.span - step });
}

/** A section's columns as many as wished: further ones are empty, and what stood in one that goes is put into the last that stays. */
export function asManyAs(section: Section, count: number, newId: NewId): Column[] {
  const { columns } = section;
  if (count > columns.length) return evenly([...columns, ...Array.from({ length: count - columns.length }, () => newColumn(newId, 1))]);
  const kept = columns.slice(0, count);
  const left = columns.slice(count).flatMap((column) => column.elements);
  const last = kept.at(-1);
  return last ? evenly([...kept.slice(0, -1), { ...last, elements: [...last.elements, ...left] }]) : [...columns];
}
