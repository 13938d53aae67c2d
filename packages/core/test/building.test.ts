import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { calendarFile, freeSlots, slotsByDay } from '../src/appointments';
import { actionsOf, DRAWING_NAMES, DRAWINGS, newElement, type PageElement, screenAt, TRADES, withSizeChange, wordPlaces, words } from '../src/elements';
import { GraphSchema } from '../src/funnel';
import { type IdKind, makeId } from '../src/ids';
import {
  allElements,
  applyOperation,
  asManyAs,
  type Column,
  copyPage,
  evenly,
  filesOn,
  moveEdge,
  newColumn,
  type Operation,
  PageDocumentSchema,
  removePopUp,
  reorderAt,
  resetOrderAt,
  sectionsIn,
} from '../src/page';
import { buildSection, SECTION_PURPOSES, SECTIONS } from '../src/sections';
import { BrandSchema, contrast, joinCode, LOOK_NAMES, paletteOf } from '../src/shop';
import { DESIGNS, drawFunnel, dress, salesPage, templateOf } from '../src/templates';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const page = salesPage({ name: 'Course', pictureIds: [] }, newId);
const columns = (...spans: number[]): Column[] => spans.map((span) => newColumn(newId, span));
const spans = (list: readonly Column[]) => list.map(({ span }) => span);

describe('columns', () => {
  it('share the twelfths evenly, the first ones what is left over', () => {
    expect(spans(evenly(columns(1, 1, 1)))).toEqual([4, 4, 4]);
    expect(spans(evenly(columns(9, 1, 1, 1, 1)))).toEqual([3, 3, 2, 2, 2]); // 12 = 5 × 2 + 2
  });
  it('take from each other where their edge is dragged, and neither goes below two', () => {
    expect(spans(moveEdge(columns(6, 6), 0, 2))).toEqual([8, 4]);
    expect(spans(moveEdge(columns(6, 6), 0, 9))).toEqual([10, 2]);
    expect(spans(moveEdge(columns(4, 4, 4), 1, -7))).toEqual([4, 2, 6]);
    expect(spans(moveEdge(columns(4, 8), 1, 3))).toEqual([4, 8]);
  });
  it('keep their sum, however they are dragged', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(3), fc.integer({ min: -12, max: 12 })), { maxLength: 20 }), (drags) => {
        const moved = drags.reduce((list, [edge, by]) => moveEdge(list, edge, by), evenly(columns(1, 1, 1, 1)));
        expect(spans(moved).reduce((sum, span) => sum + span, 0)).toBe(12);
        expect(Math.min(...spans(moved))).toBeGreaterThanOrEqual(2);
      }),
    );
  });
  it('that are taken away leave what stood in them in the last one', () => {
    const section = buildSection(SECTIONS.find(({ key }) => key === 'benefits')?.plan() ?? { name: '', columns: [] }, newId);
    const fewer = asManyAs(section, 1, newId);
    expect(fewer[0]?.elements).toEqual(section.columns.flatMap(({ elements }) => elements));
    expect(spans(asManyAs(section, 4, newId))).toEqual([3, 3, 3, 3]);
  });
});

describe('what differs on one size of screen', () => {
  it('is set and taken back without a trace', () => {
    const hidden = withSizeChange(undefined, 'phone', { hide: true });
    expect(hidden).toEqual({ phone: { hide: true } });
    expect(withSizeChange(hidden, 'tablet', { scale: 'larger' })).toEqual({ phone: { hide: true }, tablet: { scale: 'larger' } });
    expect(withSizeChange(hidden, 'phone', { hide: undefined })).toBeUndefined();
  });
  it('orders what stands beside each other there only, and is undone', () => {
    const [first, second] = sectionsIn(page, null).map(({ id }) => id) as [string, string];
    const operation = reorderAt(page, second, 'phone', -1) as Operation;
    const { page: moved, inverse } = applyOperation(page, operation);
    const order = (id: string) => moved.sections.find((section) => section.id === id)?.sizes?.phone?.order;
    expect([order(second), order(first)]).toEqual([1, 2]);
    expect(moved.sections.map(({ id }) => id)).toEqual(page.sections.map(({ id }) => id));
    expect(reorderAt(moved, second, 'phone', -1)).toBeNull();
    expect(applyOperation(moved, inverse).page).toEqual(page);
    const reset = applyOperation(moved, resetOrderAt(moved, second, 'phone') as Operation).page;
    expect(reset.sections.every(({ sizes }) => sizes === undefined)).toBe(true);
  });
});

describe('pop-ups', () => {
  const popUp = { id: newId('popUp'), name: 'Wait', trigger: { kind: 'leaving' as const }, often: 'week' as const, width: 'normal' as const };
  const inside = { ...buildSection({ name: 'Inside', columns: [{ span: 12, parts: [] }] }, newId), popUpId: popUp.id };
  const withOne = { ...page, popUps: [popUp], sections: [...page.sections, inside] };
  it('have sections of their own, which are the page’s again once the pop-up is gone', () => {
    expect(sectionsIn(withOne, popUp.id)).toEqual([inside]);
    expect(sectionsIn(withOne, null)).toEqual(page.sections);
    expect(sectionsIn({ ...withOne, popUps: [] }, null)).toContain(inside);
  });
  it('go with everything in them, and come back with it', () => {
    const { page: without, inverse } = applyOperation(withOne, removePopUp(withOne, popUp.id));
    expect(without.sections).toEqual(page.sections);
    expect(applyOperation(without, inverse).page).toEqual(withOne);
  });
});

describe('what leads elsewhere', () => {
  it('follows a copied page: a press that scrolls to a section scrolls to its copy', () => {
    const target = page.sections[1]?.id as string;
    const button = { ...newElement('button', newId), action: { kind: 'section' as const, sectionId: target } };
    const column = page.sections[0]?.columns[0]?.id as string;
    const linked = applyOperation(page, { kind: 'insertElement', columnId: column, index: 0, element: button as never }).page;
    const copy = copyPage(linked, newId);
    const actions = allElements(copy).flatMap(actionsOf);
    expect(actions).toContainEqual({ kind: 'section', sectionId: copy.sections[1]?.id });
    expect(copy.sections[1]?.id).not.toBe(target);
  });
  it('names every file of a page once', () => {
    const file = newId('file');
    const element = { ...newElement('picture', newId), source: { kind: 'file' as const, fileId: file } };
    const column = page.sections[0]?.columns[0]?.id as string;
    const pictured = applyOperation({ ...page, shareImageId: file }, { kind: 'insertElement', columnId: column, index: 0, element: element as never }).page;
    expect(filesOn(pictured)).toEqual([file]);
  });
  it('puts the codes of shop, funnel and page below each other', () => {
    expect(joinCode(false, { head: '<a>', body: '', needs: 'marketing' }, null, { head: '<b>', body: ' x ' })).toEqual([
      { needs: 'nothing', head: '<a>\n<b>', body: 'x', purchase: '' },
    ]);
    expect(joinCode(false, undefined, { head: '', body: ' ' })).toEqual([]);
    // Where visitors are asked, code waits for what it needs; what nobody has said of it waits for the strictest.
    expect(
      joinCode(true, { head: '<a>', body: '' }, { head: '<b>', body: '', needs: 'nothing' }, { head: '', body: 'c', purchase: 'd', needs: 'marketing' }),
    ).toEqual([
      { needs: 'nothing', head: '<b>', body: '', purchase: '' },
      { needs: 'marketing', head: '<a>', body: 'c', purchase: 'd' },
    ]);
  });
});

describe('appointments', () => {
  const pattern = { free: [{ day: 1, from: '09:00', until: '11:00' }], minutes: 30, every: 45, noticeHours: 2, daysAhead: 7 };
  const timeZone = 'Europe/Lisbon';
  // Monday, 30 November 2026; Lisbon is at UTC then.
  const monday = Date.UTC(2026, 10, 30);
  const at = (hours: number, minutes = 0) => monday + (hours * 60 + minutes) * 60_000;
  it('are free from start to start within the pattern, over nothing that is taken, and not too soon', () => {
    // 09:00, 09:45, 10:30; 11:15 would end after eleven.
    const starts = (now: number, taken: Array<{ start: number; end: number }> = []) =>
      freeSlots({ ...pattern, daysAhead: 0 }, { now, timeZone, taken }).map(({ start }) => start);
    expect(starts(at(0))).toEqual([at(9), at(9, 45), at(10, 30)]);
    expect(starts(at(7, 30))).toEqual([at(9, 45), at(10, 30)]);
    expect(starts(at(0), [{ start: at(9, 40), end: at(9, 50) }])).toEqual([at(9), at(10, 30)]);
    // Back to back is not over each other: one that ends when the next begins leaves that one free, a minute more does not.
    expect(starts(at(0), [{ start: at(9, 30), end: at(9, 45) }])).toEqual([at(9), at(9, 45), at(10, 30)]);
    expect(starts(at(0), [{ start: at(9, 30), end: at(9, 46) }])).toEqual([at(9), at(10, 30)]);
    expect(starts(at(0), [{ start: at(9, 29), end: at(9, 45) }])).toEqual([at(9, 45), at(10, 30)]);
  });
  it('keep to the clock of the shop through a change of clocks', () => {
    // On 29 March 2026 clocks in Lisbon go from 01:00 to 02:00: half past one does not exist, nine o’clock is at 08:00 UTC.
    const now = Date.UTC(2026, 2, 28);
    const sunday = { ...pattern, free: [{ day: 7, from: '00:30', until: '09:30' }], minutes: 30, every: 60, noticeHours: 0, daysAhead: 1 };
    const starts = freeSlots(sunday, { now, timeZone, taken: [] }).map(({ start }) => new Date(start).toISOString().slice(11, 16));
    expect(starts).toEqual(['00:30', '01:30', '02:30', '03:30', '04:30', '05:30', '06:30', '07:30']);
  });
  it('stand by day, in words', () => {
    const [day] = slotsByDay(freeSlots(pattern, { now: at(0), timeZone, taken: [] }), timeZone);
    expect(day?.words).toBe('Monday, November 30');
    expect(day?.slots.map(({ words: time }) => time)).toEqual(['09:00', '09:45', '10:30']);
  });
  it('come as a calendar file that nothing typed can break', () => {
    const person = { name: 'A "B"\r\nX-EVIL:1', email: 'a@moonmail.test' };
    const text = calendarFile({
      changes: 0,
      uid: 'u',
      start: at(9),
      end: at(9, 30),
      at: at(0),
      subject: 'Talk, short; or long\nEND:VEVENT',
      place: 'é'.repeat(80),
      description: '',
      organiser: person,
      attendee: person,
    });
    expect(text).toContain('DTSTART:20261130T090000Z\r\nDTEND:20261130T093000Z');
    expect(text).toContain('SUMMARY:Talk\\, short\\; or long\\nEND:VEVENT');
    expect(text.match(/^END:VEVENT/gm)).toHaveLength(1);
    expect(text.match(/^X-EVIL/gm)).toBeNull();
    expect(text).toContain('METHOD:REQUEST');
    expect(text).toContain('SEQUENCE:0\r\nSTATUS:CONFIRMED');
    for (const line of text.split('\r\n')) expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75);
    expect(text.replaceAll('\r\n ', '')).toContain(`LOCATION:${'é'.repeat(80)}`);
  });
});

describe('screens', () => {
  it('are told apart by their width, at the very pixel at which pages change', () => {
    expect([280, 720, 721, 1023, 1024, 2560].map(screenAt)).toEqual(['phone', 'phone', 'tablet', 'tablet', 'desktop', 'desktop']);
  });
});

describe('the library', () => {
  it('has at least eighty sections, each of another name, some for every purpose', () => {
    expect(SECTIONS.length).toBeGreaterThanOrEqual(80);
    expect(new Set(SECTIONS.map(({ key }) => key)).size).toBe(SECTIONS.length);
    expect(new Set(SECTIONS.map(({ purpose }) => purpose))).toEqual(new Set(Object.keys(SECTION_PURPOSES)));
  });
  it('has at least sixty drawings, some for every trade', () => {
    expect(DRAWING_NAMES.length).toBeGreaterThanOrEqual(60);
    expect(new Set(DRAWING_NAMES.map((name) => DRAWINGS[name].trade))).toEqual(new Set(Object.keys(TRADES)));
  });
  it('never has more than one headline of the first rank in a section', () => {
    for (const { plan } of SECTIONS) {
      const ranks = buildSection(plan(), newId).columns.flatMap(({ elements }) =>
        elements.filter((element) => element.type === 'headline' && element.level === 1),
      );
      expect(ranks.length).toBeLessThanOrEqual(1);
    }
  });
});

describe('whole funnels', () => {
  const product = { id: newId('product'), name: 'A Thing, explained', pictureIds: [], included: ['One'], kind: 'digital' as const };
  const gift = { id: newId('product'), name: 'A Gift', pictureIds: [] };
  it('are at least twelve, over trades, looks and shapes', () => {
    expect(DESIGNS.length).toBeGreaterThanOrEqual(12);
    expect(new Set(DESIGNS.map(({ trade }) => trade)).size).toBe(Object.keys(TRADES).length - 1);
    expect(new Set(DESIGNS.map(({ brand }) => brand.look))).toEqual(new Set(LOOK_NAMES));
    expect(new Set(DESIGNS.map(({ template }) => template)).size).toBeGreaterThanOrEqual(5);
  });
  it.each(DESIGNS)('$design is valid, readable, and has one headline of the first rank on each page', (design) => {
    const about = { product, gift: templateOf(design.template).needsGift ? gift : undefined };
    const drawn = dress(drawFunnel(design.template, about, newId), design, about, newId);
    expect(GraphSchema.safeParse(drawn.graph).error).toBeUndefined();
    for (const step of drawn.graph.steps) {
      const drawnPage = drawn.pages[step.id];
      expect(PageDocumentSchema.safeParse(drawnPage).error).toBeUndefined();
      if (!drawnPage || design.pages[step.kind] === undefined) continue;
      expect(allElements(drawnPage).filter((element) => element.type === 'headline' && element.level === 1)).toHaveLength(1);
    }
    expect(BrandSchema.safeParse(design.brand).error).toBeUndefined();
    const palette = paletteOf(design.brand);
    expect(contrast(palette.onAccent, palette.accent)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(palette.accentInk, palette.ground)).toBeGreaterThanOrEqual(4.5);
  });
  it('keep the order form of a funnel that begins with its checkout, and lead down to it', () => {
    const design = DESIGNS.find(({ template }) => template === 'direct-link') as (typeof DESIGNS)[number];
    const drawn = dress(drawFunnel('direct-link', { product }, newId), design, { product }, newId);
    const first = drawn.pages[drawn.graph.entryId];
    expect(first).toMatchObject({ title: product.name, indexed: true });
    const elements = allElements(first as never);
    expect(elements.some(({ type }) => type === 'order-form')).toBe(true);
    expect(elements.flatMap(actionsOf)).toContainEqual({ kind: 'scroll', target: 'order-form' });
    expect(elements.filter((element) => element.type === 'headline' && element.level === 1)).toHaveLength(1);
  });
});

it('words that stand deep in an element can be typed on the page too', () => {
  const consent = { ...newElement('form', newId), consent: { words: words('Yes'), required: true } } as PageElement;
  expect(wordPlaces(consent)).toContainEqual(['consent', 'words']);
  const table = newElement('price-table', newId);
  expect(wordPlaces(table)).toContainEqual(['cards', 1, 'points', 0]);
  expect(wordPlaces(newElement('comparison', newId))).toContainEqual(['rows', 1, 'label']);
});
