export * from './api';
export * from './operation';
export * from './page';
