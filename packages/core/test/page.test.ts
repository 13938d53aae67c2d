import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bindName, elementRecordOf, newElement, type PageElement, saysPlainly } from '../src/elements';
import { type IdKind, makeId } from '../src/ids';
import { allElements, applyOperation, type Operation, type PageDocument, PageDocumentSchema, paragraphsOf, pastedBelow, placeOnPage } from '../src/page';
import { buildSection, SECTIONS } from '../src/sections';
import { BrandSchema, coloursFrom, contrast, DEFAULT_BRAND, luminance, paletteOf } from '../src/shop';
import { salesPage } from '../src/templates';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const page = salesPage({ name: 'Course', pictureIds: [] }, newId);

/** Some operation that fits the page as it stands. */
function someOperation(current: PageDocument, choice: number, a: number, b: number): Operation | null {
  const section = current.sections[a % Math.max(1, current.sections.length)];
  const columns = current.sections.flatMap((each) => each.columns);
  const column = columns[b % Math.max(1, columns.length)];
  const elements = allElements(current);
  const element = elements[a % Math.max(1, elements.length)];
  switch (choice) {
    case 0:
      return {
        kind: 'insertSection',
        index: a % (current.sections.length + 1),
        section: buildSection((SECTIONS[b % SECTIONS.length] as (typeof SECTIONS)[number]).plan(), newId),
      };
    case 1:
      return section ? { kind: 'removeSection', sectionId: section.id } : null;
    case 2:
      return section ? { kind: 'moveSection', sectionId: section.id, index: b % current.sections.length } : null;
    case 3:
      return section ? { kind: 'changeSection', sectionId: section.id, changes: { name: `Name ${b}`, ground: 'tint' } } : null;
    case 4:
      return column ? { kind: 'insertElement', columnId: column.id, index: a % (column.elements.length + 1), element: newElement('text', newId) } : null;
    case 5:
      return element ? { kind: 'removeElement', elementId: element.id } : null;
    case 6:
      return element && column ? { kind: 'moveElement', elementId: element.id, columnId: column.id, index: b % (column.elements.length + 1) } : null;
    case 7:
      return element ? { kind: 'changeElement', elementId: element.id, changes: element.type === 'headline' ? { size: 'small' } : {} } : null;
    default:
      return { kind: 'changeSettings', changes: { title: `Title ${a}` } };
  }
}

describe('operations', () => {
  it('are undone by their inverses, in any number and order, and leave the page given untouched', () => {
    const choices = fc.array(fc.tuple(fc.nat(8), fc.nat(50), fc.nat(50)), { maxLength: 25 });
    const before = structuredClone(page);
    fc.assert(
      fc.property(choices, (list) => {
        let current = page;
        const inverses: Operation[] = [];
        for (const [choice, a, b] of list) {
          const operation = someOperation(current, choice, a, b);
          if (!operation) continue;
          const applied = applyOperation(current, operation);
          current = applied.page;
          inverses.push(applied.inverse);
        }
        expect(PageDocumentSchema.safeParse(current).error).toBeUndefined();
        for (const inverse of inverses.toReversed()) current = applyOperation(current, inverse).page;
        expect(current).toEqual(page);
      }),
    );
    expect(page).toEqual(before);
  });

  it('that name a missing part are refused', () => {
    expect(() => applyOperation(page, { kind: 'removeElement', elementId: 'elm_000000' })).toThrow(RangeError);
    expect(() => applyOperation(page, { kind: 'moveSection', sectionId: 'sec_000000', index: 0 })).toThrow(RangeError);
  });
});

describe('a page document', () => {
  const firstProblem = (document: unknown) => PageDocumentSchema.safeParse(document).error?.issues[0]?.path.join('.');
  it('names the path of what does not fit', () => {
    const broken = structuredClone(page) as { sections: Array<{ columns: Array<{ elements: Array<Record<string, unknown>> }> }> };
    (broken.sections[1]?.columns[0]?.elements[0] as Record<string, unknown>).size = 'gigantic';
    expect(firstProblem(broken)).toBe('sections.1.columns.0.elements.0.size');
  });
  it('refuses an id that stands twice', () => {
    const section = page.sections[0];
    expect(firstProblem({ ...page, sections: [section, section] })).toMatch(/^sections\.1/);
  });
  it('refuses an address that could run script', () => {
    const button = { ...newElement('button', newId), action: { kind: 'address', url: 'javascript:alert(1)' } };
    const column = { id: newId('column'), span: 12, elements: [button] };
    expect(firstProblem({ ...page, sections: [{ ...page.sections[0], columns: [column] }] })).toBe('sections.0.columns.0.elements.0.action.url');
  });
});

it('names the place of a path as whoever edits the page sees it', () => {
  const first = page.sections[0]?.columns[0]?.elements[0]?.type ?? '';
  expect(placeOnPage(page, 'page.sections.0.columns.0.elements.0.words')).toBe(`section 1, ${elementRecordOf(first).name}`);
  expect(placeOnPage(page, 'sections.2')).toBe('section 3');
  expect(placeOnPage(page, 'sections.0.columns.9.elements.9')).toBe('section 1');
  expect(placeOnPage(page, 'page.title')).toBe('settings of the page');
});

describe('a product’s name that was typed', () => {
  it('becomes the bound value, with what stands around it as it was', () => {
    const typed = [{ type: 'text' as const, text: 'Get First Light: First Light is it', bold: true }];
    expect(bindName(typed, 'First Light', 'product.name')).toEqual([
      { type: 'text', text: 'Get ', bold: true },
      { type: 'bound', value: 'product.name' },
      { type: 'text', text: ': ', bold: true },
      { type: 'bound', value: 'product.name' },
      { type: 'text', text: ' is it', bold: true },
    ]);
    const list = { ...newElement('list', newId), items: [[], typed] } as PageElement;
    expect([saysPlainly(list, 'First Light'), saysPlainly(list, 'Second'), saysPlainly(list, '')]).toEqual([true, false, false]);
    expect(bindName(typed, '', 'product.name')).toBe(typed);
  });
});

describe('a brand’s palette', () => {
  const colour = fc.integer({ min: 0, max: 0xffffff }).map((value) => `#${value.toString(16).padStart(6, '0').toUpperCase()}`);
  it('keeps every word readable, whatever the three colours', () => {
    fc.assert(
      fc.property(colour, colour, colour, (main, accent, ground) => {
        const brand = BrandSchema.safeParse({ ...DEFAULT_BRAND, main, accent, ground });
        fc.pre(brand.success);
        const p = paletteOf({ ...DEFAULT_BRAND, main, accent, ground });
        for (const surface of [p.ground, p.tint, p.sheet])
          for (const ink of [p.ink, p.softInk, p.accentInk]) expect(contrast(ink, surface)).toBeGreaterThanOrEqual(4.5);
        for (const ink of [p.onDark, p.softOnDark, p.accentOnDark]) expect(contrast(ink, p.dark)).toBeGreaterThanOrEqual(4.5);
        expect(contrast(p.onAccent, p.accent)).toBeGreaterThanOrEqual(4.5);
      }),
    );
  });
  it('is made of one colour: an accent nearly opposite, and a ground that every ink reads on', () => {
    fc.assert(fc.property(colour, (main) => BrandSchema.safeParse({ ...DEFAULT_BRAND, ...coloursFrom(main) }).success));
    // A pure blue has the hue 240; 240 + 165 = 405, which is 45, an orange at 70 % and 54 %.
    expect(coloursFrom('#0000FF').accent).toBe('#DCB338');
    expect(coloursFrom('#333333').accent).toBe(coloursFrom('#EEEEEE').accent);
  });
  it('refuses a ground on which nothing reads well', () => {
    expect(luminance('#808080')).toBeGreaterThan(0.06);
    expect(BrandSchema.safeParse({ ...DEFAULT_BRAND, ground: '#808080' }).success).toBe(false);
  });
  it('knows contrast as WCAG defines it', () => {
    expect(contrast('#000000', '#FFFFFF')).toBeCloseTo(21, 5);
    // #767676 is the lightest grey that reaches AA on white.
    expect(contrast('#767676', '#FFFFFF')).toBeCloseTo(4.54, 2);
  });
});

describe('pasted paragraphs', () => {
  it('are told by their lines, whatever ends them, without empty ones', () => {
    expect(paragraphsOf('One\r\n\r\n Two \n\nThree\u2029Four\n')).toEqual(['One', 'Two', 'Three', 'Four']);
  });

  it('become texts below a headline, in their order and in one step back; elsewhere they may stand in the words', () => {
    const headline = allElements(page).find(({ type }) => type === 'headline') as PageElement;
    const operation = pastedBelow(page, headline.id, ['Two', 'Three'], newId);
    if (!operation) throw new Error('nothing below');
    const { page: after, inverse } = applyOperation(page, operation);
    expect(PageDocumentSchema.safeParse(after).success).toBe(true);
    const column = after.sections.flatMap(({ columns }) => columns).find(({ elements }) => elements.some(({ id }) => id === headline.id));
    const at = column?.elements.findIndex(({ id }) => id === headline.id) ?? -1;
    expect(column?.elements.slice(at, at + 3)).toMatchObject([
      { id: headline.id },
      { type: 'text', words: [{ type: 'text', text: 'Two' }] },
      { type: 'text', words: [{ type: 'text', text: 'Three' }] },
    ]);
    expect(applyOperation(after, inverse).page).toEqual(page);
    const text = allElements(page).find(({ type }) => type === 'text') as PageElement;
    expect(pastedBelow(page, text.id, ['Two'], newId)).toBeNull();
    expect(pastedBelow(page, headline.id, [], newId)).toBeNull();
  });
});
