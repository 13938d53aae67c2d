/**
 * One drawing: width and height of its field, and its shapes. Lines are in the ink of where it stands; classes fill:
 * `a` accent, `b` tint, `c` sheet, `d` main colour, `k` ink, `o` without line, `h` thin line.
 */
export type Drawing = readonly [width: number, height: number, shapes: string];

/** A quiet disc behind an object. */
export const DISC = '<circle class="b o" cx="120" cy="100" r="88"/>';
/** The line an object stands on. */
export const FLOOR = '<path d="M28 176h184"/>';

/** The usual field, an object on its disc. */
export const object = (shapes: string): Drawing => [240, 200, DISC + shapes];
/** A wider field, for a scene. */
export const scene = (shapes: string): Drawing => [320, 220, shapes];
