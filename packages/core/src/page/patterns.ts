/** Patterns that a section's ground can carry, in its own ink and very light. */
export const PATTERNS = {
  dots: 'Dots',
  grid: 'Grid',
  lines: 'Fine lines',
  slants: 'Slanted lines',
  waves: 'Waves',
  rings: 'Rings',
  stars: 'Small stars',
  leaves: 'Leaves',
  weave: 'Weave',
  confetti: 'Confetti',
} as const;
export type PatternName = keyof typeof PATTERNS;
export const PATTERN_NAMES = Object.keys(PATTERNS) as [PatternName, ...PatternName[]];
