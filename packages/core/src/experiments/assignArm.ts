/**
 * A number from 0 up to (and without) 1 that is always the same for the same words, and spread evenly: FNV-1a of 32 bits,
 * mixed by the last steps of MurmurHash3, since FNV alone keeps words that differ in their last letter close together.
 */
export function spread(words: string): number {
  let hash = 0x811c9dc5;
  for (let index = 0; index < words.length; index++) hash = Math.imul(hash ^ words.charCodeAt(index), 0x01000193);
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return ((hash ^ (hash >>> 16)) >>> 0) / 2 ** 32;
}

/**
 * The arm of a visitor: the same at every visit and in every round, and independent of their arms in other tests.
 * @param arms in their order, with shares in whatever unit; at least one
 */
export function assignArm<Arm extends { share: number }>(visitorId: string, experimentId: string, arms: readonly Arm[]): Arm {
  const all = arms.reduce((sum, { share }) => sum + share, 0);
  let left = spread(`${experimentId} ${visitorId}`) * all;
  const found = arms.find(({ share }) => {
    left -= share;
    return left < 0;
  });
  return found ?? (arms.at(-1) as Arm);
}
