import { type FileProblem, isHopeless } from './problems';

export const STRAY_QUOTE = 'A quoted cell is not closed, or has a quote inside that is not doubled.';

/**
 * Finds what RFC 4180 does not allow of quotes: cells that are not closed, and quotes within that are not doubled. One
 * pass over the text, whatever stands in it: a parser that goes back at each of them can be kept busy for hours.
 * @param delimiter the sign between cells
 */
export function strayQuotes(text: string, delimiter: string): FileProblem[] {
  const problems: FileProblem[] = [];
  const endsLine = (index: number) => text[index] === '\n' || text[index] === '\r';
  let line = 1;
  // Each turn begins at a cell and ends at the next one.
  for (let at = 0; at < text.length && !isHopeless(problems); at++) {
    if (text[at] === '"') {
      const end = closingQuote(text, at + 1);
      const begun = line;
      for (let within = text.indexOf('\n', at); within >= 0 && within < end; within = text.indexOf('\n', within + 1)) line++;
      at = end + 1;
      while (text[at] === ' ') at++;
      const isClosed = end < text.length && (at >= text.length || text[at] === delimiter || endsLine(at));
      if (!isClosed) problems.push({ line: begun, column: '', message: STRAY_QUOTE });
    }
    while (at < text.length && text[at] !== delimiter && !endsLine(at)) at++;
    if (text[at] === '\r' && text[at + 1] === '\n') at++;
    if (endsLine(at)) line++;
  }
  return problems;
}

/** Where the first quote stands that is not doubled; the length of the text if there is none. */
function closingQuote(text: string, from: number): number {
  let at = text.indexOf('"', from);
  while (at >= 0 && text[at + 1] === '"') at = text.indexOf('"', at + 2);
  return at < 0 ? text.length : at;
}
