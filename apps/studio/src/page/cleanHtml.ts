import { HTML_ATTRIBUTES, HTML_TAGS } from '@ruta/core/elements';
import createPurifier from 'dompurify';

const purifier = createPurifier(window);

/** Own HTML as it can be shown while it is edited; what goes live is cleaned again on the server. */
export const cleanHtml = (code: string): string =>
  purifier.sanitize(code, { ALLOWED_TAGS: HTML_TAGS, ALLOWED_ATTR: HTML_ATTRIBUTES, ALLOW_DATA_ATTR: false, ALLOW_ARIA_ATTR: false });
