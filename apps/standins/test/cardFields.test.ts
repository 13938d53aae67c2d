import { describe, expect, it } from 'vitest';
import { fieldsPage } from '../src/quayside/fields';
import { lookCss, readLook } from '../src/quayside/look';

const PARENT = 'http://shop.test:8080';
const look = {
  label: { color: 'rgb(20, 27, 56)', size: '15px', weight: '600' },
  field: { color: 'rgb(0, 0, 0)', ground: 'color(srgb 1 0.98 0.9)', line: '2px solid rgb(20, 27, 56)', corner: '16px' },
  focus: '#e3a23a',
  root: '32px',
  family: '"Source Sans 3 Variable", system-ui',
  faces: [`${PARENT}/assets/fonts/source-text.woff2`],
};

describe('the card fields', () => {
  it('take ground, corners and type of the page they stand on', () => {
    const css = lookCss(readLook(JSON.stringify(look), PARENT));
    for (const part of [
      'font-size:32px',
      '--ground:color(srgb 1 0.98 0.9)',
      '--line:2px solid rgb(20, 27, 56)',
      '--corner:16px',
      'Source Sans 3 Variable',
      look.faces[0],
    ])
      expect(css).toContain(part);
    expect(fieldsPage(PARENT, readLook(JSON.stringify(look), PARENT))).toContain(css);
  });

  it('take nothing that is no look, and no typeface from elsewhere', () => {
    const bad = 'red;}input{background:url(http://elsewhere.test/?';
    const told = JSON.stringify({
      label: { color: bad, size: bad, weight: bad },
      field: { color: bad, ground: `rgb(${bad})`, line: `1px solid ${bad}`, corner: bad },
      focus: bad,
      root: bad,
      family: `x;${bad}`,
      faces: ['http://elsewhere.test/a.woff2', `${PARENT}.elsewhere.test/a.woff2`, `${PARENT}/a.woff2)}*{x:y`, 7],
    });
    for (const text of [told, 'no look', '[]', '{"label":7,"faces":"x"}', undefined])
      expect(lookCss(readLook(text, PARENT))).toBe(lookCss(readLook('{}', PARENT)));
    expect(lookCss(readLook(JSON.stringify({ faces: ['http://elsewhere.test/a.woff2'] }), PARENT))).not.toContain('elsewhere');
  });
});
