export type { CellTerms } from './cells';
export * from './codesCsv';
export * from './csv';
export { type FileProblem, isHopeless, MOST_PROBLEMS, type Progress, toldProblems } from './problems';
export { PRODUCT_FILE_COLUMNS } from './productColumns';
export * from './productsCsv';
export * from './productsJson';
export * from './taxTableCsv';
export * from './wordsAtCommas';
