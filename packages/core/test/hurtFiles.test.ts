import fc from 'fast-check';
import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { codesFromCsv, type FileProblem, productsFromCsv, productsFromJson, readCsv, taxTableFromCsv, writeCsv } from '../src/formats';
import { strayQuotes } from '../src/formats/strayQuotes';
import { type IdKind, makeId } from '../src/ids';
import { guessMapping, readSpend } from '../src/spend';

let count = 0;
const newId = (kind: IdKind) => makeId(kind, 1_700_000_000_000 + ++count, new Uint8Array(10));
const terms = { currency: 'EUR', timeZone: 'Europe/Lisbon' };
const products = (text: string) => productsFromCsv(text, [], terms, newId);
const STRAY = 'A quoted cell is not closed, or has a quote inside that is not doubled.';

describe('quotes that do not fit', () => {
  it('are told at the line their cell begins on', () => {
    expect(readCsv('a,b\n1,"two\n\nlines"\n"x"y,2\n3,"4', ['a', 'b'], [])).toEqual({
      columns: [],
      rows: [],
      problems: [
        { line: 5, column: '', message: STRAY },
        { line: 6, column: '', message: STRAY },
      ],
    });
  });
  it('are none where the writer doubled them, whatever stands in the cells', () => {
    const cell = fc.array(fc.constantFrom('"', ',', ';', '\t', '\n', '\r\n', ' ', 'a'), { maxLength: 8 }).map((parts) => parts.join(''));
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 5 }), (rows) => {
        expect(strayQuotes(writeCsv(['one', 'two'], rows), ',')).toEqual([]);
      }),
    );
  });
  it('are the same ones that the parser stumbles over', () => {
    const text = fc.array(fc.constantFrom('"', '"', ',', '\n', ' ', 'a'), { maxLength: 30 }).map((parts) => parts.join(''));
    fc.assert(
      fc.property(text, (given) => {
        const { errors } = Papa.parse(given, { delimiter: ',', newline: '\n' });
        const { problems } = readCsv(`one,two\n${given}`, ['one', 'two'], []);
        expect(problems.some(({ message }) => message === STRAY)).toBe(errors.some((error) => error.type === 'Quotes'));
      }),
      { numRuns: 2000 },
    );
  });
  it('end the reading before the parser goes back at each of them', () => {
    const many = `a,b\n${'"a"b,c\n'.repeat(50_000)}`;
    expect(strayQuotes(many, ',')).toHaveLength(500);
    // A parser that looks for the end of the line at each of these looks at 18,000,000,000 signs.
    expect(readCsv(`a,b\n"${'"x'.repeat(300_000)}${' '.repeat(60_000)}\n`, ['a', 'b'], []).problems).toEqual([{ line: 2, column: '', message: STRAY }]);
  });
});

describe('a file made to hurt', () => {
  const last = (problems: FileProblem[]) => problems.at(-1)?.message;

  it('with 60,000 prices of one product is told so once, at the first price too many', () => {
    const prices = Array.from({ length: 60_000 }, (_, index) => `Many,one-time,Price ${index},5`);
    const { items, problems } = products(`name,price_kind,price_name,regular\n${prices.join('\n')}`);
    expect(items).toEqual([]);
    expect(problems).toEqual([{ line: 362, column: 'price_kind', message: 'A product has at most 360 prices in all, and this one 60,000.' }]);
  });
  it('with nothing but empty lines brings nothing, and the last line is still counted right', () => {
    expect(products(`name,price_kind,regular\n${'\n'.repeat(400_000)}`)).toEqual({ items: [], problems: [] });
    expect(products(`name,price_kind,regular\n${'\n'.repeat(400_000)}One,one-time,x`).problems).toMatchObject([{ line: 400_002, column: 'regular' }]);
  });
  it('with more lines than anybody has is ended', () => {
    const codes = Array.from({ length: 250_000 }, (_, index) => `C${index},10`);
    const { items, problems } = codesFromCsv(`code,percent\n${codes.join('\n')}`, new Set(), terms);
    expect(items).toEqual([]);
    expect(problems).toEqual([{ line: 200_002, column: '', message: 'A file has at most 200,000 lines. Split it.' }]);
  });
  it('with too many products is told so', () => {
    const lines = Array.from({ length: 20_001 }, (_, index) => `Product ${index},free`);
    expect(products(`name,price_kind\n${lines.join('\n')}`).problems).toEqual([
      { line: 20_002, column: '', message: 'A file has at most 20,000 products. Split it.' },
    ]);
  });
  it.each([
    ['products', (wrong: string) => products(`name,price_kind,regular\n${Array.from({ length: 2000 }, (_, index) => index + wrong).join('')}`)],
    ['codes', (wrong: string) => codesFromCsv(`code,percent,amount\n${wrong.repeat(2000)}`, new Set(), terms)],
    ['tax rates', (wrong: string) => taxTableFromCsv(`country,standard,reduced,digital\n${wrong.repeat(2000)}`, terms)],
  ])('tells the first 500 places of %s, and that there may be more', (_what, read) => {
    const { items, problems } = read('?,?,?\n');
    expect(items).toEqual([]);
    expect(problems).toHaveLength(501);
    expect(last(problems)).toBe('Only the first 500 places are told. Mend these, then look again.');
  });
  it('tells the first 500 places of products in JSON and of ad spend, too', () => {
    const file = { format: 'ruta-products', version: 1, currency: 'EUR', products: Array.from({ length: 2000 }, () => ({ name: '' })) };
    expect(last(productsFromJson(JSON.stringify(file), [], 'EUR').problems)).toContain('Only the first 500');
    const spend = `day,campaign,cost\n${'2026-13-45,x,1\n'.repeat(2000)}`;
    expect(last(readSpend(spend, guessMapping(spend).mapping, 'EUR').problems)).toContain('Only the first 500');
  });
  it('with a header that never ends is told in words that fit on a screen', () => {
    const { problems } = readCsv(`${'x'.repeat(100_000)},${','.repeat(5000)}\n1`, ['a'], ['a']);
    expect(problems.length).toBeLessThanOrEqual(500);
    expect(Math.max(...problems.map(({ column, message }) => column.length + message.length))).toBeLessThan(200);
  });
});

describe('how far it is', () => {
  it('only grows, and ends within what there is', () => {
    const told: Array<[string, number, number]> = [];
    const lines = Array.from({ length: 3000 }, (_, index) => `Product ${index},free`);
    productsFromCsv(`name,price_kind\n${lines.join('\n')}`, [], terms, newId, (part, done, of) => told.push([part, done, of]));
    for (const part of ['reading', 'checking']) {
      const steps = told.filter(([each]) => each === part);
      expect(steps.length).toBeGreaterThanOrEqual(5);
      expect(steps.map(([, done]) => done)).toEqual(steps.map(([, done]) => done).toSorted((a, b) => a - b));
      for (const [, done, of] of steps) expect(done).toBeLessThanOrEqual(of);
    }
    expect(told.map(([part]) => part).lastIndexOf('reading')).toBeLessThan(told.findIndex(([part]) => part === 'checking'));
  });
});
