import type { PatternName } from '@ruta/core/page';

/** A tile of a pattern: its width and height, and its shapes in black. */
type Tile = readonly [width: number, height: number, shapes: string];

const lines = (d: string, width = 1.5) => `<path d='${d}' fill='none' stroke='#000' stroke-width='${width}'/>`;

const TILES: Record<PatternName, Tile> = {
  dots: [22, 22, "<circle cx='4' cy='4' r='2'/><circle cx='15' cy='15' r='2'/>"],
  grid: [32, 32, lines('M0 .5h32M.5 0v32', 1)],
  lines: [12, 12, lines('M0 6h12', 1)],
  slants: [16, 16, lines('M-4 12l8 8M0 0l16 16M12-4l8 8', 2)],
  waves: [48, 20, lines('M0 10c12-12 12-12 24 0s12 12 24 0', 1.6)],
  rings: [
    64,
    64,
    "<g fill='none' stroke='#000' stroke-width='1.5'><circle cx='32' cy='32' r='28'/><circle cx='32' cy='32' r='19'/><circle cx='32' cy='32' r='10'/></g>",
  ],
  stars: [
    72,
    72,
    "<path d='M14 8l2 5 5 2-5 2-2 5-2-5-5-2 5-2zM52 42l2 5 5 2-5 2-2 5-2-5-5-2 5-2z'/><circle cx='50' cy='14' r='1.5'/><circle cx='20' cy='52' r='1.5'/>",
  ],
  leaves: [64, 64, "<path d='M10 30c0-14 10-20 20-20 0 12-8 20-20 20zM54 34c0 14-10 20-20 20 0-12 8-20 20-20z'/>"],
  weave: [40, 40, lines('M0 10h20M20 30h20M10 20v20M30 0v20', 3)],
  confetti: [
    80,
    80,
    "<path d='M10 14l8 3-1 3-8-3zM52 10l3 7-3 1-3-7zM34 40l7-4 2 3-7 4zM66 50l8 2-1 3-8-2zM16 62l3 7-3 1-3-7z'/><circle cx='66' cy='24' r='2'/><circle cx='40' cy='68' r='2'/>",
  ],
};

/** The rule that lays a pattern over a section's ground, in the section's ink and very light. */
export function patternRule(name: PatternName): string {
  const [width, height, shapes] = TILES[name];
  const svg = `<svg xmlns='http://www.w3.org/2000/svg' width='${width}' height='${height}'>${shapes}</svg>`;
  return `.pattern-${name}::before{mask-image:url("data:image/svg+xml,${encodeURIComponent(svg)}")}`;
}
