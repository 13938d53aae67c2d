import type { PageElement } from '@ruta/core/elements';

/**
 * The change of an element that puts a value at a path inside it: `setAt(list, ['items', 2], words)` gives
 * `{ items: […] }` with the third item replaced. Nothing given is altered.
 */
export function setAt(element: PageElement, path: Array<string | number>, value: unknown): Record<string, unknown> {
  const [field, ...rest] = path;
  const current = (element as unknown as Record<string, unknown>)[String(field)];
  return { [String(field)]: replace(current, rest, value) };
}

function replace(current: unknown, path: Array<string | number>, value: unknown): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return value;
  if (Array.isArray(current)) return current.with(Number(key), replace(current[Number(key)], rest, value));
  const record = current as Record<string, unknown>;
  return { ...record, [key]: replace(record[String(key)], rest, value) };
}
