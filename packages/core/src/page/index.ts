export * from './api';
export * from './copyPage';
export * from './operation';
export * from './page';
export * from './shownPage';
