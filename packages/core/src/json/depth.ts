/** Deeper than anything that is made here nests, conditions within conditions included. */
const MOST_DEEP = 100;

/** Whether a value nests deeper than anything reads it: found without recursion, so that no depth is too deep for it. */
export function isTooDeep(value: unknown, most = MOST_DEEP): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth++) {
    if (depth > most) return true;
    level = level.flatMap((each) =>
      typeof each === 'object' && each !== null ? Object.values(each).filter((inner) => typeof inner === 'object' && inner !== null) : [],
    );
  }
  return false;
}
