import { BrandSchema, contrast, DEFAULT_BRAND, LOOK_NAMES, paletteOf } from '@ruta/core/shop';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fontFaces, fontFiles, pageCss } from '../src/css';
import { lookOf } from '../src/looks';

const colour = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0').toUpperCase()}`);

describe.each(LOOK_NAMES)('the look %s', (look) => {
  it('keeps every word readable, whatever the brand’s colours', () => {
    const palette = lookOf({ look }).palette ?? paletteOf;
    fc.assert(
      fc.property(colour, colour, colour, (main, accent, ground) => {
        const brand = { ...DEFAULT_BRAND, main, accent, ground, look };
        fc.pre(BrandSchema.safeParse(brand).success);
        const p = palette(brand);
        for (const surface of [p.ground, p.tint, p.sheet])
          for (const ink of [p.ink, p.softInk, p.accentInk]) expect(contrast(ink, surface)).toBeGreaterThanOrEqual(4.5);
        for (const ink of [p.onDark, p.softOnDark, p.accentOnDark]) expect(contrast(ink, p.dark)).toBeGreaterThanOrEqual(4.5);
        expect(contrast(p.onAccent, p.accent)).toBeGreaterThanOrEqual(4.5);
      }),
    );
  });

  it('says every token that the rules ask for, and asks for the typeface in its own weight', () => {
    const css = pageCss({ ...DEFAULT_BRAND, fonts: 'newsreader', look });
    const named = new Set([...css.matchAll(/--([\w-]+):/g)].map(([, name]) => name));
    const asked = [...css.matchAll(/var\(--([\w-]+)\)/g)].map(([, name]) => name);
    expect(asked.filter((name) => !named.has(name))).toEqual([]);
    const brand = { ...DEFAULT_BRAND, fonts: 'newsreader' as const, look };
    for (const file of fontFiles(brand)) expect(fontFaces(brand)).toContain(file);
  });
});
