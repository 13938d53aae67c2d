import { type DrawingName, type ElementOf, type IconName, placeholder as say, type Words, words } from '../../elements';
import { headlinePart, type Part, part, type SectionPlan, textPart } from '../plan';

export { say, words };

/** Short ways to say what most ready sections hold. */
export const big = (content: Words) => headlinePart(1, 'large', content);
export const head = (content: Words) => headlinePart(2, 'medium', content);
export const small = (content: Words) => headlinePart(2, 'small', content);
export const eyebrow = (content: Words) => textPart('eyebrow', content);
export const lead = (content: Words) => textPart('lead', content);
export const body = (content: Words) => textPart('body', content);
export const note = (content: Words) => textPart('small', content);
export const button = (content: string, more: Partial<ElementOf<'button'>> = {}) => part('button', { words: words(content), ...more });
export const drawn = (name: DrawingName, more: Partial<ElementOf<'picture'>> = {}) => part('picture', { source: { kind: 'drawing', name }, ...more });
export const productPicture = (shape: ElementOf<'picture'>['shape'] = 'natural') => part('picture', { source: { kind: 'product' }, shape });

/** Lines with an icon each, still to be written: what stands in each title. */
export const iconLines = (arrangement: 'rows' | 'grid' | 'line', look: 'plain' | 'disc' | 'outline', lines: Array<[IconName, string, string]>) =>
  part('icon-list', { arrangement, look, items: lines.map(([icon, title, text]) => ({ icon, title: say(title), words: say(text) })) });

export const stepLines = (arrangement: 'column' | 'row', lines: Array<[string, string]>) =>
  part('steps', { arrangement, items: lines.map(([title, text]) => ({ title: say(title), words: say(text) })) });

export const checks = (...lines: string[]) => part('list', { marker: 'check', items: lines.map((line) => say(line)) });

/** Two columns, the first so many twelfths wide. */
export const two = (span: number, left: Part[], right: Part[]): SectionPlan['columns'] => [
  { span, parts: left },
  { span: 12 - span, parts: right },
];
