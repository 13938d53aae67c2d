/** Text of the size that browsers begin with, in pixels: what one rem is until a reader chooses otherwise. */
const REM = 16;
/** Up to this many pixels a length is a hairline, which stays one however large the text is. */
const HAIRLINE = 3;

const rounded = (length: number) => String(Math.round(length * 1e5) / 1e5).replace(/^(-?)0\./, '$1.');

/**
 * Lengths that follow the size of text a reader chose: all of a page grows with it, its gaps and the widths at which it changes too, as if
 * it were seen on a screen so much smaller.
 */
export function inRem(css: string): string {
  return css.replace(/(\d*\.?\d+)px/g, (length, pixels: string) => (Number(pixels) <= HAIRLINE ? length : `${rounded(Number(pixels) / REM)}rem`));
}

/** The other way about, for a page that is shown within another document, whose text has a size of its own. */
export function inPixels(css: string): string {
  return css.replace(/(\d*\.?\d+)rem/g, (_, times: string) => `${rounded(Number(times) * REM)}px`);
}
