import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Condition } from '../src/conditions';
import { newElement, type PageElement, words } from '../src/elements';
import { FactsSchema } from '../src/facts';
import { type IdKind, makeId } from '../src/ids';
import { allElements, conditionsOn, copyPage, isConditional, PageDocumentSchema, readPage, shownPage, versionKey } from '../src/page';

const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000, crypto.getRandomValues(new Uint8Array(10)));
const text = (line: string, show?: PageElement['show']): PageElement =>
  ({ ...newElement('text', newId), words: words(line), ...(show ? { show } : {}) }) as PageElement;
const tookIt: Condition = { fact: 'bought', what: { by: 'product', productId: 'prd_workbook' } };
const norway: Condition = { fact: 'country', operator: 'one of', countries: ['NO'] };
const page = (elements: PageElement[], show?: PageElement['show']) =>
  PageDocumentSchema.parse({
    version: 1,
    title: 'Page',
    description: '',
    indexed: false,
    sections: [
      {
        id: newId('section'),
        name: 'One',
        ground: 'plain',
        space: 'normal',
        align: 'start',
        width: 'normal',
        columns: [{ id: newId('column'), span: 12, elements }],
        ...(show ? { show } : {}),
      },
    ],
  });
const lines = (of: ReturnType<typeof page>) => allElements(of).map((element) => JSON.stringify('words' in element ? element.words : ''));
const facts = (known: object) => FactsSchema.parse(known);

describe('a page with versions', () => {
  const when = text('You took it', { kind: 'when', condition: tookIt });
  const otherwise = text('You did not', { kind: 'otherwise', of: when.id });
  const both = page([text('All'), when, otherwise]);

  it.each([
    ['took it', { bought: [{ productId: 'prd_workbook' }] }, ['All', 'You took it'], '10'],
    ['took something else', { bought: [{ productId: 'prd_other00' }] }, ['All', 'You did not'], '01'],
    ['is not known', {}, ['All', 'You did not'], '01'],
  ])('who %s sees one of them, with nothing of the other', (_who, known, seen, key) => {
    const shown = shownPage(both, facts(known));
    expect(lines(shown).map((line) => seen.findIndex((words) => line.includes(words)))).toEqual(seen.map((_words, index) => index));
    expect(JSON.stringify(shown)).not.toContain(key === '10' ? 'You did not' : 'You took it');
    expect(versionKey(both, facts(known))).toBe(key);
  });

  it('shows the one for everybody else once the other is gone', () => {
    expect(lines(shownPage(page([otherwise]), {}))).toHaveLength(1);
  });

  it('hides a whole section with all that is in it', () => {
    const hidden = page([text('In it')], { kind: 'when', condition: norway });
    expect(shownPage(hidden, facts({ country: 'PT' })).sections).toEqual([]);
    expect(shownPage(hidden, facts({ country: 'NO' })).sections).toHaveLength(1);
    expect(conditionsOn(hidden)).toEqual([norway]);
  });

  it('without conditions stays the very same', () => {
    const plain = page([text('All')]);
    expect(isConditional(plain)).toBe(false);
    expect(shownPage(plain, {})).toBe(plain);
  });

  it('copied, has the copies follow each other and not their models', () => {
    const copy = copyPage(both, newId);
    const [, first, second] = allElements(copy);
    expect(second?.show).toEqual({ kind: 'otherwise', of: first?.id });
    expect(first?.id).not.toBe(when.id);
    expect(readPage(JSON.parse(JSON.stringify(copy)))).toEqual(copy);
  });

  it('shows exactly one of each pair to everybody, and the same page to whoever has the same key', () => {
    const known = fc.record({ country: fc.constantFrom('NO', 'PT'), bought: fc.constantFrom([], [{ productId: 'prd_workbook' }]) }, { requiredKeys: [] });
    const pairs = [tookIt, norway, { all: [tookIt, norway] }, { not: norway }].flatMap((condition) => {
      const one = text('one', { kind: 'when', condition });
      return [one, text('other', { kind: 'otherwise', of: one.id })];
    });
    const many = page(pairs);
    const seen = new Map<string, string>();
    fc.assert(
      fc.property(known, (person) => {
        const shown = shownPage(many, facts(person));
        expect(allElements(shown)).toHaveLength(pairs.length / 2);
        const key = versionKey(many, facts(person));
        const before = seen.get(key) ?? JSON.stringify(shown);
        expect(JSON.stringify(shown)).toBe(before);
        seen.set(key, before);
      }),
    );
  });
});
