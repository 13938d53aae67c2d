import { HTML_ATTRIBUTES, HTML_STYLES, HTML_TAGS } from '@ruta/core/elements';
import sanitizeHtml from 'sanitize-html';

/** Values of a style that load nothing and run nothing. */
const QUIET_VALUE = /^[^;:{}()<>\\]*(?:(?:rgb|rgba|hsl|hsla|calc|var)\([^(){};:<>\\]*\)[^;:{}()<>\\]*)*$/i;

const RULES: sanitizeHtml.IOptions = {
  allowedTags: HTML_TAGS,
  allowedAttributes: { '*': HTML_ATTRIBUTES },
  allowedSchemes: ['http', 'https', 'mailto', 'tel'],
  allowedSchemesByTag: { img: ['https', 'data'] },
  allowedStyles: { '*': Object.fromEntries(HTML_STYLES.map((property) => [property, [QUIET_VALUE]])) },
};

/** Own HTML without what runs, loads or breaks out of its place; tags that were left open are closed. */
export const cleanHtml = (code: string): string => sanitizeHtml(code, RULES);
