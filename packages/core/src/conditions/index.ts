export * from './api';
export * from './condition';
