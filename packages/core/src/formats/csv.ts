import Papa from 'papaparse';

/** Something wrong in a file, at its line (from 1, the header included) and column. */
export interface FileProblem {
  line: number;
  column: string;
  message: string;
}

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

/** The sign between cells: the one by which the header has most of the names that may be there. */
function delimiterOf(text: string, known: readonly string[]): string {
  const found = [',', ';', '\t'].map((delimiter) => {
    const [header = []] = Papa.parse<string[]>(text, { delimiter, preview: 1 }).data;
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
 * are refused at their place, since their value is not in the file.
 * @param known names of columns that may be there; any other is a problem
 * @param needed names that must be there
 */
export function readCsv(text: string, known: readonly string[], needed: readonly string[]): { columns: string[]; rows: CsvRow[]; problems: FileProblem[] } {
  const source = text.replace(/^\uFEFF/, '');
  const { data, errors } = Papa.parse<string[]>(source, { delimiter: delimiterOf(source, known), skipEmptyLines: false });
  const problems: FileProblem[] = errors
    .filter((error) => error.type === 'Quotes')
    .map((error) => ({ line: lineOf(data, error.row ?? 0), column: '', message: 'A quoted cell is not closed, or has a quote inside that is not doubled.' }));
  const columns = (data[0] ?? []).map((name) => name.trim().toLowerCase());
  for (const [index, name] of columns.entries()) {
    if (!known.includes(name))
      problems.push({ line: 1, column: name, message: name === '' ? `Column ${index + 1} has no name.` : `There is no column “${name}”.` });
    else if (columns.indexOf(name) < index) problems.push({ line: 1, column: name, message: `The column “${name}” is there twice.` });
  }
  for (const name of needed) if (!columns.includes(name)) problems.push({ line: 1, column: name, message: `The column “${name}” is missing.` });
  const rows: CsvRow[] = [];
  let line = 1 + breaksIn(data[0] ?? []);
  for (const values of data.slice(1)) {
    line++;
    const begun = line;
    line += breaksIn(values);
    if (values.every((value) => value.trim() === '')) continue;
    if (values.length > columns.length)
      problems.push({ line: begun, column: '', message: `This line has ${values.length} cells, the header ${columns.length}.` });
    const cells: Record<string, string> = {};
    for (const [index, name] of columns.entries()) {
      const value = values[index] ?? '';
      if (isFormula(value) && plainCell(value) === value) {
        problems.push({
          line: begun,
          column: name,
          message: 'This cell holds a formula. Write its value, or put an apostrophe before it if it is meant as text.',
        });
      }
      cells[name] = plainCell(value).replace(/\r\n/g, '\n');
    }
    rows.push({ line: begun, cells });
  }
  return { columns, rows, problems };
}

const breaksIn = (values: readonly string[]) => values.reduce((sum, value) => sum + (value.match(/\n/g)?.length ?? 0), 0);

function lineOf(data: string[][], row: number): number {
  return data.slice(0, row).reduce((sum, values) => sum + 1 + breaksIn(values), 1);
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
