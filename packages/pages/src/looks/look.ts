import type { Brand, Palette } from '@ruta/core/shop';

/** Measures and manners that a look sets; what it leaves out is as in the plain one. */
export interface LookTokens {
  /** Line height, letter spacing and case of headlines. */
  'h-line': string;
  'h-track': string;
  'h-case': string;
  /** Sizes of the three headlines. */
  h1: string;
  h2: string;
  h3: string;
  /** Space above and below a section, and a wide one. */
  space: string;
  'space-wide': string;
  /** Width of the content, and of a narrow section. */
  row: string;
  'row-narrow': string;
  /** Longest line of running text. */
  measure: string;
  /** Corners of buttons and fields, of panels, and of pictures. */
  'button-corner': string;
  'panel-corner': string;
  'picture-corner': string;
  /** Border of panels and of fields. */
  'panel-line': string;
  'field-line': string;
}

/** One character of public pages: its tokens, and the rules that no token can say. */
export interface Look {
  tokens: Partial<LookTokens>;
  rules: string;
  /** Colours of its own making out of the brand's; without it they are the brand's palette. */
  palette?: (brand: Brand) => Palette;
}

export const PLAIN_TOKENS: LookTokens = {
  'h-line': '1.15',
  'h-track': '-.01em',
  'h-case': 'none',
  h1: 'clamp(2.1rem,1.5rem + 2.6vw,3.3rem)',
  h2: 'clamp(1.6rem,1.3rem + 1.2vw,2.1rem)',
  h3: '1.25rem',
  space: '64px',
  'space-wide': '96px',
  row: '1080px',
  'row-narrow': '680px',
  measure: '64ch',
  'button-corner': 'var(--corner)',
  'panel-corner': 'var(--corner)',
  'picture-corner': 'var(--corner)',
  'panel-line': '1px solid var(--line)',
  'field-line': '1px solid #8a929b',
};
