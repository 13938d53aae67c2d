/** Something wrong in a file, at its line (from 1, the header included) and column. */
export interface FileProblem {
  line: number;
  column: string;
  message: string;
}

/** Places that are told of one file at most: nobody reads more, and a file made to hurt has millions. */
export const MOST_PROBLEMS = 500;

/** Whether a file has so many problems that reading on tells nobody anything. */
export const isHopeless = (problems: readonly FileProblem[]): boolean => problems.length >= MOST_PROBLEMS;

/** What is told of a file: its problems in the order of its lines, and a word if there may be more. */
export function toldProblems(problems: readonly FileProblem[]): FileProblem[] {
  const first = [...problems].sort((a, b) => a.line - b.line).slice(0, MOST_PROBLEMS);
  if (!isHopeless(problems)) return first;
  return [...first, { line: 0, column: '', message: `Only the first ${MOST_PROBLEMS} places are told. Mend these, then look again.` }];
}

/** How far something is that goes through a file: parts done, of how many. */
export type Progress = (part: 'reading' | 'checking', done: number, of: number) => void;

/** Every how many parts it is told how far something is. */
export const TOLD_EVERY = 500;

/** The beginning of something long, to be named in a message. */
export const shortened = (words: string): string => (words.length > 60 ? `${words.slice(0, 60)}…` : words);
