import Papa from 'papaparse';
import { type FileProblem, isHopeless, type Progress, shortened, TOLD_EVERY } from './problems';
import { STRAY_QUOTE, strayQuotes } from './strayQuotes';

export interface CsvRow {
  /** Line of the file on which the row begins, from 1. */
  line: number;
  cells: Record<string, string>;
}

/** What begins a formula, wide letters of Asian keyboards included, whatever space or quotes stand before it. */
const BEGINS_FORMULA = /^["'\s\uFEFF]*[=+\-@\uFF1D\uFF0B\uFF0D\uFF20]/;
const NUMBER = /^[+-]?\d[\d.,]*$/;
/** What a spreadsheet may take for the end of a cell, whatever stands around it. */
const ENDS = '[;\\t\\r\\n]';
const FORMULA = BEGINS_FORMULA.source.slice(1);
const AFTER_END = new RegExp(`(${ENDS})(?=${FORMULA})`, 'g');
/** The apostrophes that `safeCell` puts before formulas, and `plainCell` takes away again. */
const GUARDED = new RegExp(`^'(?=${FORMULA})`);
const GUARDED_AFTER_END = new RegExp(`(${ENDS})'(?=${FORMULA})`, 'g');

const isFormula = (cell: string) => BEGINS_FORMULA.test(cell) && !NUMBER.test(cell);
function safeCell(cell: string): string {
  if (NUMBER.test(cell)) return cell;
  const within = cell.replace(AFTER_END, "$1'");
  return BEGINS_FORMULA.test(within) ? `'${within}` : within;
}
const plainCell = (cell: string) => cell.replace(GUARDED, '').replace(GUARDED_AFTER_END, '$1');

/** Lines of one file that hold anything. */
const MOST_ROWS = 200_000;
/** How much of a file is looked at for its header, in characters. */
const HEADER_LENGTH = 10_000;

/** The sign between cells: the one by which the header has most of the names that may be there. */
function delimiterOf(text: string, known: readonly string[]): string {
  const found = [',', ';', '\t'].map((delimiter) => {
    const [header = []] = Papa.parse<string[]>(text.slice(0, HEADER_LENGTH), { delimiter, preview: 1 }).data;
    return { delimiter, names: header.filter((name) => known.includes(name.trim().toLowerCase())).length, cells: header.length };
  });
  return found.sort((a, b) => b.names - a.names || b.cells - a.cells)[0]?.delimiter ?? ',';
}

/**
 * Rows as comma-separated text (RFC 4180) with a header. Cells that a spreadsheet would run as a formula get an
 * apostrophe before them, which `readCsv` takes away again.
 */
export function writeCsv(columns: readonly string[], rows: ReadonlyArray<readonly string[]>): string {
  return `${Papa.unparse({ fields: [...columns], data: rows.map((row) => row.map(safeCell)) }, { newline: '\r\n' })}\r\n`;
}

/**
 * Reads comma-, semicolon- or tab-separated text with a header. Quoted cells may hold line breaks. Cells with a formula
 * are refused at their place, since their value is not in the file. It ends early where too much is wrong.
 * @param known names of columns that may be there; any other is a problem
 * @param needed names that must be there
 */
export function readCsv(
  text: string,
  known: readonly string[],
  needed: readonly string[],
  progress?: Progress,
): { columns: string[]; rows: CsvRow[]; problems: FileProblem[] } {
  const source = text.replace(/^\uFEFF/, '');
  const delimiter = delimiterOf(source, known);
  const problems = strayQuotes(source, delimiter);
  const rows: CsvRow[] = [];
  let columns: string[] | undefined;
  if (problems.length > 0) return { columns: [], rows, problems };
  let line = 1;
  let read = 0;
  Papa.parse<string[]>(source, {
    delimiter,
    step({ data: values, meta, errors }, parser) {
      const begun = line;
      // The parser is stricter at the very end of a text.
      if (errors.some((error) => error.type === 'Quotes')) problems.push({ line: begun, column: '', message: STRAY_QUOTE });
      line += 1 + breaksIn(values);
      if (++read % TOLD_EVERY === 0) progress?.('reading', meta.cursor, source.length);
      if (columns === undefined) {
        columns = values.map((name) => name.trim().toLowerCase());
        problems.push(...headerProblems(columns, known, needed));
      } else if (!isBlank(values)) {
        rows.push({ line: begun, cells: cellsOf(values, columns, begun, problems) });
        if (rows.length > MOST_ROWS)
          problems.push({ line: begun, column: '', message: `A file has at most ${MOST_ROWS.toLocaleString('en')} lines. Split it.` });
      }
      if (isHopeless(problems) || rows.length > MOST_ROWS) parser.abort();
    },
  });
  if (columns === undefined) problems.push(...headerProblems([], known, needed));
  return { columns: columns ?? [], rows, problems };
}

const breaksIn = (values: readonly string[]) => values.reduce((sum, value) => sum + (value.match(/\n/g)?.length ?? 0), 0);
const isBlank = (values: readonly string[]) => values.every((value) => value.trim() === '');

/** What is wrong with the names of the columns. */
function headerProblems(columns: readonly string[], known: readonly string[], needed: readonly string[]): FileProblem[] {
  const problems: FileProblem[] = [];
  const seen = new Set<string>();
  for (const [index, name] of columns.entries()) {
    if (isHopeless(problems)) return problems;
    const column = shortened(name);
    if (!known.includes(name))
      problems.push({ line: 1, column, message: name === '' ? `Column ${index + 1} has no name.` : `There is no column “${column}”.` });
    else if (seen.has(name)) problems.push({ line: 1, column, message: `The column “${name}” is there twice.` });
    seen.add(name);
  }
  for (const name of needed) if (!seen.has(name)) problems.push({ line: 1, column: name, message: `The column “${name}” is missing.` });
  return problems;
}

/** The cells of a row by the names of their columns, as they were meant. */
function cellsOf(values: readonly string[], columns: readonly string[], line: number, problems: FileProblem[]): Record<string, string> {
  if (values.length > columns.length) problems.push({ line, column: '', message: `This line has ${values.length} cells, the header ${columns.length}.` });
  const cells: Record<string, string> = {};
  for (const [index, name] of columns.entries()) {
    const value = values[index] ?? '';
    if (isFormula(value) && plainCell(value) === value) {
      problems.push({
        line,
        column: name,
        message: 'This cell holds a formula. Write its value, or put an apostrophe before it if it is meant as text.',
      });
    }
    cells[name] = plainCell(value).replace(/\r\n/g, '\n');
  }
  return cells;
}

/** Text of a file's bytes: UTF-8, or UTF-16 with its mark. Anything else is refused rather than read with wrong letters. */
export function decodeText(bytes: Uint8Array): { ok: true; text: string } | { ok: false; message: string } {
  const encoding = bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : 'utf-8';
  try {
    return { ok: true, text: new TextDecoder(encoding, { fatal: true }).decode(bytes) };
  } catch {
    return {
      ok: false,
      message: 'This file is in another encoding than UTF-8, so that letters like é or ß would come out wrong. Save it again as “CSV UTF-8”.',
    };
  }
}
