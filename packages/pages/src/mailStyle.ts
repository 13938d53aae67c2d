import { type Brand, FONT_PAIRS, type Palette, paletteOf } from '@ruta/core/shop';
import { headingWeight, lookOf, PLAIN_TOKENS } from './looks';

/** What of a brand and its look a mail can show: mail programs know no variables and load no typefaces of ours. */
export interface MailStyle {
  palette: Palette;
  /** CSS font families; where a reader does not have the brand's own, one of the same kind stands in. */
  heading: string;
  body: string;
  headingWeight: number;
  /** CSS values: of the headlines, of buttons, and of the sheet that the mail stands on. */
  headingCase: string;
  headingTrack: string;
  buttonCorner: string;
  panelCorner: string;
}

/** The style of the mails of a brand, in the character of its look. */
export function mailStyle(brand: Brand): MailStyle {
  const look = lookOf(brand);
  const tokens = { ...PLAIN_TOKENS, ...look.tokens };
  const { heading, body } = FONT_PAIRS[brand.fonts];
  const plain = (value: string) => value.replaceAll('var(--corner)', `${brand.corner}px`);
  return {
    palette: (look.palette ?? paletteOf)(brand),
    heading: `"${heading.family}",${heading.fallback}`,
    body: `"${body.family}",${body.fallback}`,
    headingWeight: headingWeight(brand),
    headingCase: tokens['h-case'],
    headingTrack: tokens['h-track'],
    buttonCorner: brand.buttons ? BUTTON_CORNERS[brand.buttons] : plain(tokens['button-corner']),
    panelCorner: plain(tokens['panel-corner']),
  };
}

/** Forms of buttons and fields that a brand can set whatever its look. */
export const BUTTON_CORNERS = { square: '0', rounded: '8px', pill: '999px' };
