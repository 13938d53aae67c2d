export { boundText } from './boundValue';
export * from './checkoutOptions';
export * from './context';
export { fontFaces, fontFiles, pageCss } from './css';
export { QuoteTable } from './elements/QuoteTable';
export * from './offers';
export { PageView } from './PageView';
export * from './shownProduct';
export { PlainWords } from './WordsView';
