export * from './api';
export * from './code';
