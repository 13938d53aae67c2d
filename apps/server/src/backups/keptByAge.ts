const DAY_MS = 24 * 60 * 60 * 1000;

/** How many of the last days, weeks and months keep one. */
const KEPT = [
  { days: 1, count: 7 },
  { days: 7, count: 5 },
  { days: 30, count: 12 },
];

/**
 * Which backups are kept: the newest of each of the last seven days, five weeks and twelve months (of thirty days), and the newest
 * of all whatever its age, so that a clock that is wrong never drops the last one.
 * @param moments Unix time in milliseconds
 */
export function keptByAge(moments: readonly number[], now: number): Set<number> {
  const newestFirst = [...moments].sort((a, b) => b - a);
  const kept = new Set(newestFirst.slice(0, 1));
  for (const { days, count } of KEPT) {
    const seen = new Set<number>();
    for (const at of newestFirst) {
      const age = Math.floor((now - at) / (days * DAY_MS));
      // One from a future that a clock once showed is as good as one of today.
      const slot = Math.max(0, age);
      if (slot >= count || seen.has(slot)) continue;
      seen.add(slot);
      kept.add(at);
    }
  }
  return kept;
}
