/** A value with the parts of its objects in one order, and without those that are undefined. */
function plain(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(plain);
  if (value === null || typeof value !== 'object') return value;
  const parts = Object.entries(value).filter(([, part]) => part !== undefined);
  return Object.fromEntries(parts.sort(([a], [b]) => (a < b ? -1 : 1)).map(([key, part]) => [key, plain(part)]));
}

/** Whether two values of plain data say the same, whatever the order in which the parts of their objects were written. */
export const isSame = (one: unknown, other: unknown): boolean => JSON.stringify(plain(one)) === JSON.stringify(plain(other));
