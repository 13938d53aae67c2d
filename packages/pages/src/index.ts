export { boundText } from './boundValue';
export * from './context';
export { QuoteTable } from './elements/QuoteTable';
export { fontFaces, fontFiles, pageCss } from './css';
export { PageView } from './PageView';
export { PlainWords } from './WordsView';
